import { PLAIN, sayFor, type Preferences } from '@keen-relay/core/people';

/** How figures are said on this page: to whoever looks at it. The layout says for whom before anything below it is drawn; on the server a page is drawn in one go, so
 * that nobody else's comes between.
 */
let preferences = $state<Preferences>(PLAIN);

export function speakTo(to: Preferences): void {
	if (to.locale !== preferences.locale || to.units !== preferences.units) preferences = to;
}

/** Says and reads figures as the one before the screen does. */
export const theirs = () => sayFor(preferences);

/** A sentence as the core says it, in their units and with their decimal sign. */
export const say = (sentence: string): string => theirs().text(sentence);

/** A figure with its unit. */
export const quantity = (value: number, decimals: number, unit: string): string => theirs().quantity(value, decimals, unit);

/** A figure in their unit, where the unit stands elsewhere. */
export const figure = (value: number, decimals: number, unit: string): string => theirs().figure(value, decimals, unit);

/** A figure without a unit, or in one that everybody uses. */
export function fixed(value: number, decimals: number): string;
export function fixed(value: number | null | undefined, decimals: number): string | undefined;
export function fixed(value: number | null | undefined, decimals: number): string | undefined {
	return value === null || value === undefined ? undefined : theirs().fixed(value, decimals);
}

/** A value of a chart or a drawing, in their unit. */
export const inTheirs = (value: number, unit: string): number => theirs().theirs(value, unit);

/** Their name of a unit. */
export const unitName = (unit: string): string => theirs().unit(unit);

/** A title with its unit after the last comma, "height, µm". */
export const titled = (title: string): string => theirs().title(title);
