import adapter from '@sveltejs/adapter-node';
import { vitePreprocess } from '@sveltejs/vite-plugin-svelte';

/** @type {import('@sveltejs/kit').Config} */
export default {
	preprocess: vitePreprocess(),
	kit: {
		adapter: adapter(),
		// Registered by the page that needs it: the one that a set is run from.
		serviceWorker: { register: false },
		// What is not part of the app is checked with it.
		typescript: {
			config: (config) => {
				config.include.push(
					'../e2e/**/*.ts',
					'../demo/**/*.ts',
					'../torture/**/*.ts',
					'../scripts/**/*.ts',
					'../*.config.ts'
				);
			}
		},
		// Foreign origins are refused in hooks.server.ts for every method and content type, not for forms alone.
		csrf: { trustedOrigins: ['*'] },
		csp: {
			mode: 'auto',
			directives: {
				'default-src': ['none'],
				'script-src': ['self'],
				'style-src': ['self'],
				'style-src-attr': ['unsafe-inline'],
				'font-src': ['self'],
				'img-src': ['self', 'data:'],
				'connect-src': ['self'],
				'worker-src': ['self'],
				'manifest-src': ['self'],
				'form-action': ['self'],
				'base-uri': ['none'],
				'frame-ancestors': ['none'],
				'object-src': ['none']
			}
		}
	}
};
