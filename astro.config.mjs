import node from '@astrojs/node';
import react from '@astrojs/react';
import tailwindcss from '@tailwindcss/vite';
import { defineConfig } from 'astro/config';

export default defineConfig({
  output: 'server',
  adapter: node({ mode: 'middleware' }),
  integrations: [react()],
  vite: { plugins: [tailwindcss()], resolve: { alias: { '@': new URL('./src', import.meta.url).pathname } } },
  devToolbar: { enabled: false },
  // The address is known only when the application starts; src/middleware.ts checks where a request comes from.
  security: { checkOrigin: false },
  experimental: {
    csp: {
      // One style element of the comboboxes' package, which lets a finger that presses also scroll.
      styleDirective: { hashes: ['sha256-38RhXrc7EdReTKsOm23ZPOCUgniTUUcjky8QOOrQx6o='] },
      directives: [
        "default-src 'self'",
        "img-src 'self' data:",
        "font-src 'self'",
        "connect-src 'self'",
        "object-src 'none'",
        "base-uri 'none'",
        "form-action 'self'",
        "frame-ancestors 'none'",
      ],
    },
  },
});
