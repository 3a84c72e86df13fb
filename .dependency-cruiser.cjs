// Who may import whom. Folders of the core follow the production line: each imports only folders before it, through their index.
const CORE = [
	'judgement',
	'units',
	'numerics',
	'control',
	'artwork',
	'parts',
	'paste',
	'stencil',
	'printing',
	'feeders',
	'placement',
	'balance',
	'reflow',
	'wave',
	'inspection',
	'trace',
	'schedule'
];

module.exports = {
	forbidden: [
		{ name: 'no-circles', severity: 'error', from: {}, to: { circular: true, dependencyTypesNot: ['type-only'] } },
		...CORE.map((folder, i) => ({
			name: `core-order-${folder}`,
			severity: 'error',
			from: { path: `^core/src/${folder}/`, pathNot: '\\.test\\.ts$' },
			to: { path: `^core/src/(${CORE.slice(i + 1).join('|') || 'none'})/` }
		})),
		{
			name: 'core-through-index',
			severity: 'error',
			from: { path: '^core/src/([^/]+)/' },
			to: { path: '^core/src/[^/]+/', pathNot: ['^core/src/$1/', '/index\\.ts$'] }
		},
		{ name: 'core-alone', severity: 'error', from: { path: '^core/' }, to: { path: '^(web|devices|demo|checks|bin)/' } },
		{ name: 'devices-know-core-only', severity: 'error', from: { path: '^devices/' }, to: { path: '^(web|demo|checks)/' } },
		{ name: 'demo-uses-the-api', severity: 'error', from: { path: '^demo/' }, to: { path: '^web/' } },
		{ name: 'lib-below-routes', severity: 'error', from: { path: '^web/src/lib/' }, to: { path: '^web/src/routes/' } },
		{
			name: 'ui-without-server',
			severity: 'error',
			from: { path: '^web/src/lib/(ui|model|workers)/' },
			to: { path: '^web/src/lib/server/' }
		}
	],
	options: {
		doNotFollow: { path: 'node_modules' },
		exclude: { path: '(web/build|web/\\.svelte-kit)' },
		tsConfig: { fileName: 'tsconfig.paths.json' },
		tsPreCompilationDeps: true,
		enhancedResolveOptions: {
			extensions: ['.ts', '.js', '.mjs', '.svelte'],
			exportsFields: ['exports'],
			conditionNames: ['import', 'types', 'default']
		}
	}
};
