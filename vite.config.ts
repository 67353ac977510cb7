import tailwindcss from '@tailwindcss/vite';
import { sveltekit } from '@sveltejs/kit/vite';
import { defineConfig } from 'vite';

export default defineConfig({
	plugins: [tailwindcss(), sveltekit()],
	worker: { format: 'es' },
	// Packages are found once, while the app is built, and not file by file at each start of the server.
	ssr: { noExternal: true, external: ['elkjs', 'highs', 'sequelize', 'sqlite3', 'umzug'] },
	build: {
		chunkSizeWarningLimit: 900,
		// A page's forty small files, all put into the document while its link is pressed, would keep the press waiting.
		modulePreload: {
			resolveDependencies: (_file, needs, { hostType }) =>
				hostType === 'js' ? needs.filter((need) => need.endsWith('.css')) : needs
		}
	}
});
