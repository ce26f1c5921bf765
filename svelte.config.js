import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  kit: {
    adapter: adapter({ out: 'build' }),
    // Whoever starts takes the root route's types away and writes them anew; tests beside a check of types do that elsewhere.
    outDir: process.env.VITEST ? '.svelte-kit/of-tests' : '.svelte-kit',
    // Asked in src/hooks.server.ts instead: one page is posted to by mail programs, which come from nowhere (RFC 8058).
    csrf: { trustedOrigins: ['*'] },
    // No inline script but SvelteKit's own start-up, which gets a hash.
    csp: {
      mode: 'nonce',
      directives: {
        'default-src': ['self'],
        'script-src': ['self'],
        // The chart library writes one sheet of its own beside each legend: that one, as it is, and no other.
        'style-src': ['self', 'sha256-aSysLrDECVdJ6L+jLf8CC5QKLmwRuk/OZiZk9mYky8A='],
        // Positions in the bell strip and the tables are set through style attributes; no style sheet is written into a page.
        'style-src-attr': ['unsafe-inline'],
        'img-src': ['self', 'data:'],
        'font-src': ['self'],
        'connect-src': ['self'],
        'worker-src': ['self'],
        'object-src': ['none'],
        'base-uri': ['self'],
        'frame-ancestors': ['none'],
        'form-action': ['self']
      }
    },
    typescript: {
      config: (config) => {
        config.include.push(
          '../standin/**/*.ts',
          '../demo/**/*.ts',
          '../scripts/**/*.ts',
          '../tests/**/*.ts',
          '../*.config.ts'
        );
      }
    }
  }
};
