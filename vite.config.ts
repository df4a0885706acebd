import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

export default defineConfig({
  plugins: [
    react(),
    VitePWA({
      // a new version waits until the pages of the old one are closed, or somebody asks for it: nobody loses what they are at
      registerType: 'prompt',
      injectRegister: null,
      manifest: {
        name: 'Kadro',
        short_name: 'Kadro',
        start_url: '/floor',
        display: 'standalone',
        background_color: '#F7F5EF',
        theme_color: '#0B5E6B',
        icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        maximumFileSizeToCacheInBytes: 6 * 1024 * 1024,
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^(\/at\/[a-z0-9]+)?\/api\//],
        // pictures never change: what was seen once is there without a network
        runtimeCaching: [
          {
            urlPattern: ({ url }) => /^(\/at\/[a-z0-9]+)?\/api\/photos\//.test(url.pathname),
            handler: 'CacheFirst',
            options: { cacheName: 'kadro-pictures', expiration: { maxEntries: 200 }, cacheableResponse: { statuses: [200] } },
          },
        ],
      },
    }),
  ],
  build: { outDir: 'dist/web', emptyOutDir: true, target: 'es2022', assetsInlineLimit: 0, chunkSizeWarningLimit: 1200 },
});
