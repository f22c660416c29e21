import { AppRouterCacheProvider } from '@mui/material-nextjs/v16-appRouter';
import InitColorSchemeScript from '@mui/material/InitColorSchemeScript';
import '@fontsource-variable/archivo/standard.css';
import type { Metadata } from 'next';
import type { ReactNode } from 'react';
import { Providers } from '@/ui/providers';

export const metadata: Metadata = { title: 'Calque', description: 'PDF plans brought to true scale and traced' };

export default function RootLayout({ children }: { children: ReactNode }) {
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <InitColorSchemeScript attribute="data-light" defaultMode="system" />
        <AppRouterCacheProvider><Providers>{children}</Providers></AppRouterCacheProvider>
      </body>
    </html>
  );
}
