import { plantInfo } from '$lib/server/plant/settings.ts';

export async function load({ depends }) {
	depends('live:people');
	return { info: await plantInfo(), zones: Intl.supportedValuesOf('timeZone') };
}
