import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/**
 * The server sends what stands packed beside a file where there is that; it is packed when it is to be served, not for every test.
 * @param {import('@sveltejs/kit').Adapter} made
 * @returns {import('@sveltejs/kit').Adapter}
 */
const packedLater = (made) => ({
  ...made,
  adapt: (builder) => made.adapt(Object.create(builder, { compress: { value: async () => undefined } })),
});

/** @type {import('@sveltejs/kit').Config} */
export default {
  preprocess: vitePreprocess(),
  kit: {
    adapter: packedLater(adapter({ out: 'build' })),
    csp: {
      mode: 'nonce',
      directives: {
        'default-src': ['self'],
        'script-src': ['self'],
        'style-src': ['self', 'unsafe-inline'],
        'img-src': ['self', 'data:', 'blob:'],
        // Films that are brought in are measured before they are sent.
        'media-src': ['self', 'blob:'],
        'font-src': ['self', 'data:'],
        'connect-src': ['self'],
        'worker-src': ['self'],
        'object-src': ['none'],
        'base-uri': ['self'],
        'form-action': ['self'],
        'frame-ancestors': ['none'],
      },
    },
  },
};
