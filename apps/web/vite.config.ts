import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

export default defineConfig({
  plugins: [
    react(),
    VitePWA({
      strategies: 'injectManifest',
      srcDir: 'src',
      filename: 'sw.ts',
      registerType: 'autoUpdate',
      injectRegister: false,
      injectManifest: {
        globPatterns: ['**/*.{js,css,html,woff2,svg,png,csv}'],
        maximumFileSizeToCacheInBytes: 4_000_000,
      },
      manifest: {
        name: 'Firm Needle',
        short_name: 'Firm Needle',
        description: 'Set, prove and record pressures in the field.',
        theme_color: '#f4efe4',
        background_color: '#f4efe4',
        display: 'standalone',
        icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' }],
      },
    }),
  ],
  resolve: { conditions: ['@firm-needle/source', 'module', 'browser', 'development|production'] },
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 900,
    // What every page needs comes in a few files instead of forty: on a slow line each costs a turn.
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            {
              name: 'react',
              test: /node_modules[\\/](react|react-dom|scheduler|react-router|@reduxjs|react-redux|redux|immer|reselect)[\\/]/,
            },
            {
              name: 'parts',
              test: /node_modules[\\/](@mui[\\/](material|system|utils|styled-engine|icons-material)|@emotion)[\\/]/,
              minShareCount: 4,
            },
            { name: 'core', test: /packages[\\/]core[\\/]src[\\/](quantity|gauge|verdict|result|advisor)/ },
            { name: 'kinds', test: /packages[\\/]families[\\/]src[\\/][^\\/]+[\\/]meta/ },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4180', '/health': 'http://127.0.0.1:4180' } },
});
