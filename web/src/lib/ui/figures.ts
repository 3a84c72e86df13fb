import { sayFor, type Locale, type UnitSystem } from '@keen-relay/core/people';

export const UNIT_WORDS: Record<UnitSystem, string> = {
	metric: 'metric: mm, µm, °C, g',
	customary: 'customary: in, mil, °F, oz'
};

const REGIONS = new Intl.DisplayNames('en', { type: 'region' });

/** A way to write numbers and dates, by what it makes of some: "Germany: 0,25 · 27.11.2026". */
export function localeWords(locale: Locale): string {
	const say = sayFor({ locale, units: 'metric' });
	return `${REGIONS.of(locale.slice(3))}: ${say.fixed(0.25, 2)} · ${say.date('2026-11-27')}`;
}
