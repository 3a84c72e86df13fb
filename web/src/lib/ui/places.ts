/** What belongs to no one station, by name; a place appears when its page exists. */
export const PLACES = [
	{ href: '/boards', name: 'Boards', key: 'b' },
	{ href: '/parts', name: 'Parts', key: 'p' },
	{ href: '/runs', name: 'Run', key: 'r' },
	{ href: '/panels', name: 'Trace', key: 't' },
	{ href: '/shift', name: 'Shift', key: 's' },
	{ href: '/plant', name: 'Plant', key: 'o' }
] as const;
