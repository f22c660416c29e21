import { fileURLToPath } from 'node:url';
import type { NextConfig } from 'next';

const root = fileURLToPath(new URL('..', import.meta.url));

const config: NextConfig = {
  outputFileTracingRoot: root,
  turbopack: { root },
  transpilePackages: ['@calque/core', '@calque/journal', '@calque/limits', '@calque/store'],
  serverExternalPackages: ['graphile-worker', 'pg', 'pg-copy-streams', 'pino', 'prom-client'],
  poweredByHeader: false,
  devIndicators: false,
  // Policies and headers of answers: ops/src/web/policy.ts and, for routes, web/src/server/route.ts.
  images: { unoptimized: true },
};

export default config;
