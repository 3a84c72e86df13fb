// Who may import whom. Folders of the core follow the production line: each imports only folders before it, through their index.
const CORE = [
	'judgement',
	'units',
	'numerics',
	'geometry',
	'tables',
	'people',
	'control',
	'artwork',
	'parts',
	'boards',
	'paste',
	'stencil',
	'printing',
	'feeders',
	'placement',
	'balance',
	'reflow',
	'wave',
	'hand',
	'process',
	'test',
	'inspection',
	'trace',
	'schedule',
	'line'
];

// The server in layers: each imports only what stands before it. `db` is the ground; `boards` are acts on the desk, `stations` those at the line.
const SERVER = [
	'files',
	'heavy',
	'db',
	'plant',
	'people',
	'queries',
	'boards',
	'stations',
	'line',
	'ingest',
	'shift',
	'trace',
	'sheets',
	'undo'
];

module.exports = {
	forbidden: [
		// A form inside a form is the same component: Svelte asks it to import itself.
		{
			name: 'no-circles',
			severity: 'error',
			from: { pathNot: '/SchemaForm\\.svelte$' },
			to: { circular: true, dependencyTypesNot: ['type-only'] }
		},
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
		...SERVER.map((folder, i) => ({
			name: `server-order-${folder}`,
			severity: 'error',
			from: { path: `^web/src/lib/server/${folder}/`, pathNot: '\\.test\\.ts$' },
			to: { path: `^web/src/lib/server/(${SERVER.slice(i + 1).join('|') || 'none'})/` }
		})),
		{
			name: 'no-station-imports-another',
			severity: 'error',
			from: { path: '^web/src/lib/server/stations/([^/]+)/' },
			to: { path: '^web/src/lib/server/stations/[^/]+/', pathNot: '^web/src/lib/server/stations/$1/' }
		},
		{
			name: 'ingest-through-the-registry',
			severity: 'error',
			from: { path: '^web/src/lib/server/ingest/' },
			to: { path: '^web/src/lib/server/stations/[^/]+/' }
		},
		// Outside a page that is being drawn the server speaks to nobody in particular: it asks for whom (people/preferences.ts).
		{
			name: 'server-says-to-whom',
			severity: 'error',
			from: { path: ['^web/src/lib/server/', '\\+(page\\.server|layout\\.server|server)\\.ts$'] },
			to: { path: '^web/src/lib/ui/(theirs\\.svelte|format)\\.ts$' }
		},
		{
			name: 'ui-without-server',
			severity: 'error',
			from: { path: '^web/src/lib/(ui|model|workers|stations)/' },
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
