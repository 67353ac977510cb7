import js from '@eslint/js';
import globals from 'globals';
import svelte from 'eslint-plugin-svelte';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

/** Rooms of the core, lowest first: a room may use itself and the rooms before it. */
const rooms = [
	'midi',
	'sysex',
	'profile',
	'transfer',
	'ci',
	'drawer',
	'gear',
	'rig',
	'contact',
	'plan',
	'care',
	'bench',
	'control',
	'pedal',
	'power',
	'pairing',
	'scene'
];

const outside = [
	{ group: ['svelte', 'svelte/*', '$app/*', '$env/*'], message: 'The core knows no interface.' },
	{
		group: ['$lib/*', '**/server/**', '**/hardware/**', '**/ui/**', '**/routes/**'],
		message: 'Dependencies run towards the core.'
	},
	{
		group: ['node:*', 'fs', 'path', 'crypto', 'sequelize', 'sqlite3'],
		message: 'The core touches no machine.'
	}
];

const roomRules = rooms.map((room, at) => ({
	files: [`src/lib/core/${room}/**/*.ts`],
	ignores: ['**/*.test.ts', '**/*.fixture.ts'],
	rules: {
		'no-restricted-imports': [
			'error',
			{
				patterns: [
					...outside,
					...(at + 1 < rooms.length
						? [
								{
									group: rooms.slice(at + 1).map((r) => `**/${r}/**`),
									message: `The room ${room} stands below that one.`
								}
							]
						: [])
				]
			}
		],
		'no-restricted-globals': [
			'error',
			'window',
			'document',
			'fetch',
			'process',
			'setTimeout',
			'setInterval',
			'Date',
			'crypto',
			'performance'
		],
		'no-restricted-properties': [
			'error',
			{ object: 'Math', property: 'random', message: 'Randomness is a parameter.' }
		]
	}
}));

export default ts.config(
	{ ignores: ['build/', '.svelte-kit/', 'node_modules/', 'data/', '.cache/', 'test-results/'] },
	js.configs.recommended,
	...ts.configs.recommended,
	...svelte.configs.recommended,
	{ languageOptions: { globals: { ...globals.browser, ...globals.node } }, rules: { 'no-undef': 'off' } },
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'], svelteConfig } }
	},
	// The app is served at the root: there is no base to resolve.
	{ rules: { 'svelte/no-navigation-without-resolve': 'off' } },
	{
		rules: {
			'@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
			'no-empty': ['error', { allowEmptyCatch: false }]
		}
	},
	...roomRules,
	{
		files: ['src/lib/server/**/*.ts'],
		rules: {
			'no-restricted-imports': [
				'error',
				{
					patterns: [
						{
							group: ['svelte', '**/hardware/**', '**/ui/**', '**/routes/**'],
							message: 'The server serves; it shows nothing.'
						}
					]
				}
			]
		}
	},
	{
		files: ['src/lib/server/*.ts', 'src/routes/**/*.ts', 'src/cli/*.ts'],
		ignores: ['**/*.test.ts', '**/*.fixture.ts'],
		rules: {
			'no-restricted-syntax': [
				'error',
				{
					selector: 'MemberExpression[property.name=/^(models|sequelize)$/]',
					message: 'SQL and models belong in server/store.'
				}
			]
		}
	},
	{
		files: ['src/lib/ui/**', 'src/lib/hardware/**'],
		rules: {
			'no-restricted-imports': [
				'error',
				{
					patterns: [
						{
							group: ['**/server/**', '**/routes/**'],
							message: 'The browser never reaches the database. What crosses is described in the core.'
						}
					]
				}
			]
		}
	}
);
