import { fileURLToPath } from 'node:url';
import type { NextConfig } from 'next';

const root = fileURLToPath(new URL('..', import.meta.url));

/** Everything comes from this server; WebAssembly may be compiled, nothing else may be evaluated. */
const policy = [
  "default-src 'self'", "script-src 'self' 'unsafe-inline' 'wasm-unsafe-eval'", "style-src 'self' 'unsafe-inline'", "img-src 'self' data: blob:",
  "font-src 'self'", "connect-src 'self'", "worker-src 'self' blob:", "object-src 'none'", "base-uri 'self'", "frame-ancestors 'none'", "form-action 'self'",
].join('; ');

const config: NextConfig = {
  outputFileTracingRoot: root,
  turbopack: { root },
  transpilePackages: ['@calque/core', '@calque/limits', '@calque/store'],
  serverExternalPackages: ['graphile-worker', 'pg', 'pg-copy-streams'],
  poweredByHeader: false,
  devIndicators: false,
  headers: async () => [{
    source: '/:path*',
    headers: [
      { key: 'Content-Security-Policy', value: policy },
      { key: 'X-Content-Type-Options', value: 'nosniff' },
      { key: 'Referrer-Policy', value: 'same-origin' },
    ],
  }],
};

export default config;
