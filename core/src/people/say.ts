import { NumberFormatter } from '@internationalized/number';
import { readNumber, type DecimalSign } from '../tables/index.ts';

export const UNIT_SYSTEMS = ['metric', 'customary'] as const;
export type UnitSystem = (typeof UNIT_SYSTEMS)[number];

/** Ways to write numbers and dates that a plant or a person may choose. The words stay English. */
export const LOCALES = [
	'en-GB',
	'en-US',
	'en-CA',
	'cs-CZ',
	'da-DK',
	'de-CH',
	'de-DE',
	'es-ES',
	'fi-FI',
	'fr-FR',
	'hu-HU',
	'it-IT',
	'ja-JP',
	'nl-NL',
	'pl-PL',
	'pt-BR',
	'sv-SE'
] as const;
export type Locale = (typeof LOCALES)[number];

/** How somebody reads figures: whatever is stored and judged is metric with a decimal point. */
export interface Preferences {
	locale: Locale;
	units: UnitSystem;
}

interface Said {
	unit: string;
	/** One of theirs in the canonical unit. */
	per: number;
	/** Their figure where the canonical one is 0: of a temperature that is none of a difference. */
	at0?: number;
}

const LBF_N = 4.4482216152605;
/** Exact by definition (international yard and pound, 1959; °F = 9/5 °C + 32). A unit that is not here is said as it is: s, %, nL. */
const CUSTOMARY: Partial<Record<string, Said>> = {
	µm: { unit: 'mil', per: 25.4 },
	mm: { unit: 'in', per: 25.4 },
	'mm²': { unit: 'in²', per: 645.16 },
	cm: { unit: 'in', per: 2.54 },
	m: { unit: 'ft', per: 0.3048 },
	'mm/s': { unit: 'in/s', per: 25.4 },
	'mm/s²': { unit: 'in/s²', per: 25.4 },
	'cm/min': { unit: 'in/min', per: 2.54 },
	'°C': { unit: '°F', per: 5 / 9, at0: 32 },
	K: { unit: '°F', per: 5 / 9 },
	'°C/s': { unit: '°F/s', per: 5 / 9 },
	g: { unit: 'oz', per: 28.349523125 },
	kg: { unit: 'lb', per: 0.45359237 },
	'kg/cm': { unit: 'lb/in', per: 0.45359237 / 2.54 },
	N: { unit: 'lbf', per: LBF_N },
	'N/cm': { unit: 'lbf/in', per: LBF_N / 2.54 }
};
/** A difference of temperatures is kept apart from a temperature, and said in degrees. */
const METRIC: Partial<Record<string, Said>> = { K: { unit: '°C', per: 1 } };

/** What people type for a unit: the canonical unit that it measures, and how much of that it is. */
const TYPED: Partial<Record<string, readonly [unit: string, times: number, at0?: number]>> = {
	µm: ['µm', 1],
	um: ['µm', 1],
	micron: ['µm', 1],
	microns: ['µm', 1],
	mm: ['mm', 1],
	cm: ['cm', 1],
	m: ['m', 1],
	mil: ['µm', 25.4],
	mils: ['µm', 25.4],
	thou: ['µm', 25.4],
	in: ['mm', 25.4],
	inch: ['mm', 25.4],
	inches: ['mm', 25.4],
	'"': ['mm', 25.4],
	ft: ['m', 0.3048],
	'mm²': ['mm²', 1],
	mm2: ['mm²', 1],
	'in²': ['mm²', 645.16],
	'mm/s': ['mm/s', 1],
	'in/s': ['mm/s', 25.4],
	'mm/s²': ['mm/s²', 1],
	'mm/s2': ['mm/s²', 1],
	'cm/min': ['cm/min', 1],
	'm/min': ['cm/min', 100],
	'in/min': ['cm/min', 2.54],
	'°c': ['°C', 1],
	c: ['°C', 1],
	'°f': ['°C', 5 / 9, 32],
	f: ['°C', 5 / 9, 32],
	k: ['K', 1],
	'°c/s': ['°C/s', 1],
	'k/s': ['°C/s', 1],
	'°f/s': ['°C/s', 5 / 9],
	mg: ['g', 0.001],
	g: ['g', 1],
	kg: ['g', 1000],
	oz: ['g', 28.349523125],
	lb: ['g', 453.59237],
	n: ['N', 1],
	lbf: ['N', LBF_N],
	'n/cm': ['N/cm', 1],
	'kg/cm': ['kg/cm', 1],
	'lb/in': ['kg/cm', 0.45359237 / 2.54],
	'lbf/in': ['N/cm', LBF_N / 2.54],
	ms: ['s', 0.001],
	s: ['s', 1],
	min: ['s', 60],
	h: ['s', 3600],
	'%': ['%', 1]
};
/** Units of one kind, in the kind's own. */
const KINDS: readonly Partial<Record<string, number>>[] = [
	{ µm: 0.001, mm: 1, cm: 10, m: 1000 },
	{ g: 1, kg: 1000 },
	{ s: 1, min: 60, h: 3600, d: 86_400 },
	{ 'mm/s': 1, 'cm/min': 10 / 60 }
];

/** How many of `to` one of `from` is; null where they measure different things. */
function times(from: string, to: string): number | null {
	if (from === to) return 1;
	const kind = KINDS.find((k) => k[from] !== undefined && k[to] !== undefined);
	return kind ? kind[from]! / kind[to]! : null;
}

const UNIT_NAMES = '°C/s|°C|cm/min|mm/s²|mm/s|mm²|mm|µm|kg|K|g|N/cm|N';
const FIGURE = String.raw`[-−+±]?\d+(?:\.\d+)?`;
/** Figures with their unit: "0.127 mm", "2 to 8 °C", "between 5 and 600 mm", "160 × 100 mm", "38 ± 2 µm", "100 125 150 °C". */
const WITH_UNIT = new RegExp(
	String.raw`(?<![\w.,:/-])((?<=between )${FIGURE} and ${FIGURE}|${FIGURE}(?: ${FIGURE}){2,}|${FIGURE}(?: (?:to|×|x|±) ${FIGURE})?)([ \u00a0])(${UNIT_NAMES})(?![\w²³/°]|-\w)`,
	'gu'
);
/** A figure with decimals that is part of no number of something: "R1.2" and "2.0.1" stay. */
const WITH_DECIMALS = /(?<![\w.,:/-]|\d[-−])([-−+±]?\d+)\.(\d+)(?![\w./:]|-\d)/gu;

/** A number typed by somebody, in the unit of its field. */
export type Typed = { value: number; unit: string | null } | { why: string };

/** Says figures, dates and sentences to one person, and reads what that person types. */
export class Say {
	readonly sign: DecimalSign;
	readonly #monthFirst: boolean;
	readonly #dates: Intl.DateTimeFormat;
	readonly #months: Intl.DateTimeFormat;
	readonly #plain: boolean;

	constructor(readonly preferences: Preferences) {
		const { locale, units } = preferences;
		this.sign = new NumberFormatter(locale).formatToParts(0.5).find((part) => part.type === 'decimal')?.value === ',' ? ',' : '.';
		this.#dates = new Intl.DateTimeFormat(locale, { timeZone: 'UTC', year: 'numeric', month: '2-digit', day: '2-digit' });
		this.#months = new Intl.DateTimeFormat(locale, { timeZone: 'UTC', year: 'numeric', month: '2-digit' });
		const order = this.#dates.formatToParts(0).map((part) => part.type);
		this.#monthFirst = order.indexOf('month') < order.indexOf('day') && order.indexOf('day') < order.indexOf('year');
		this.#plain = this.sign === '.' && units === 'metric';
	}

	#said(unit: string): Said {
		return (this.preferences.units === 'customary' ? CUSTOMARY[unit] : METRIC[unit]) ?? { unit, per: 1 };
	}

	/** The unit in which somebody reads what is kept in `unit`. */
	unit(unit: string): string {
		return this.#said(unit).unit;
	}

	/** A title with its unit after the last comma, "height, µm". */
	title(title: string): string {
		const cut = title.lastIndexOf(', ');
		return cut < 0 ? title : `${title.slice(0, cut)}, ${this.unit(title.slice(cut + 2))}`;
	}

	/** A figure in the unit in which it is read. */
	theirs(value: number, unit: string): number {
		const { per, at0 = 0 } = this.#said(unit);
		return value / per + at0;
	}

	/** And back. */
	canonical(theirs: number, unit: string): number {
		const { per, at0 = 0 } = this.#said(unit);
		return (theirs - at0) * per;
	}

	/** With so many decimals; the sign before them is the person's. */
	fixed(value: number, decimals: number): string {
		const text = value.toFixed(decimals);
		return this.sign === '.' ? text : text.replace('.', this.sign);
	}

	/** A figure without its unit, in the person's: as many decimals as show the same step. */
	figure(value: number, decimals: number, unit: string): string {
		return this.fixed(this.theirs(value, unit), Math.max(0, decimals + Math.round(Math.log10(this.#said(unit).per))));
	}

	/** A figure with its unit. */
	quantity(value: number, decimals: number, unit: string): string {
		return `${this.figure(value, decimals, unit)} ${this.unit(unit)}`;
	}

	/** A figure with as many decimals as its size needs. */
	number(value: number, unit = ''): string {
		const theirs = this.theirs(value, unit);
		const size = Math.abs(theirs);
		if (Number.isInteger(theirs) && size < 1e6) return String(theirs);
		return this.fixed(theirs, size >= 100 ? 1 : size >= 10 ? 2 : 3);
	}

	/** What stands in a field that somebody may change: five figures at the most where it was turned into another unit. */
	inField(value: number, unit = ''): string {
		const text = String(Number(this.theirs(value, unit).toPrecision(unit && this.#said(unit).per !== 1 ? 5 : 12)));
		return this.sign === '.' ? text : text.replace('.', this.sign);
	}

	/** A sentence with figures in metric units and decimal points, as the core says it. */
	text(sentence: string): string {
		if (!/\d/.test(sentence) || (this.#plain && !sentence.includes(' K'))) return sentence;
		const kept: string[] = [];
		const keep = (text: string) => `\u0001${kept.push(text) - 1}\u0002`;
		return sentence
			.replace(WITH_UNIT, (_, figures: string, blank: string, unit: string) =>
				keep(
					`${figures.replace(/(± |[-−+±]?)(\d+(?:\.(\d+))?)/gu, (_figure, sign: string, digits: string, decimals: string | undefined) => {
						// What stands behind ± is a difference.
						const of = sign.startsWith('±') && unit === '°C' ? 'K' : unit;
						const minus = sign === '-' || sign === '−';
						const said = this.figure((minus ? -1 : 1) * Number(digits), decimals?.length ?? 0, of);
						return minus ? said.replace('-', sign) : `${sign}${said}`;
					})}${blank}${this.unit(unit)}`
				)
			)
			.replace(WITH_DECIMALS, (_, whole: string, decimals: string) => `${whole}${this.sign}${decimals}`)
			.replace(/\u0001(\d+)\u0002/g, (_, i: string) => kept[Number(i)]!);
	}

	/** A date of the calendar, "27/11/2026". */
	date(iso: string): string {
		return this.#dates.format(Date.parse(`${iso.slice(0, 10)}T00:00:00Z`));
	}

	/** How a date is typed, for whoever typed it otherwise. */
	get #dateLike(): string {
		return `Type a date like ${this.date('2026-11-27')}.`;
	}

	/** Reads a date that somebody typed: in the order of their dates, or year first; nothing is turned round to make it fit.
	 * @returns of the calendar, "2026-11-27"; or why it is none
	 * @example new Say({ locale: 'en-GB', units: 'metric' }).readDate('3/12/2026') // => { value: '2026-12-03' }
	 */
	readDate(typed: string): { value: string } | { why: string } {
		const parts = /^\s*(\d{1,4})\s*[-./ ]\s*(\d{1,2})\s*[-./ ]\s*(\d{1,4})\s*\.?\s*$/.exec(typed);
		if (!parts) return { why: this.#dateLike };
		const [, a = '', b = '', c = ''] = parts;
		const yearFirst = a.length === 4;
		const [year, month, day] = yearFirst ? [a, b, c] : this.#monthFirst ? [c, a, b] : [c, b, a];
		if (year.length !== 4 || day.length > 2) return { why: `Type the year with four digits, like ${this.date('2026-11-27')}.` };
		if (!(Number(month) >= 1 && Number(month) <= 12)) return { why: `There is no month ${month}. ${this.#dateLike}` };
		const days = new Date(Date.UTC(Number(year), Number(month), 0)).getUTCDate();
		if (!(Number(day) >= 1 && Number(day) <= days)) return { why: `That month has no day ${day}. ${this.#dateLike}` };
		return { value: `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}` };
	}

	/** A month of the calendar, "11/2026". */
	month(iso: string): string {
		return this.#months.format(Date.parse(`${iso.slice(0, 7)}-01T00:00:00Z`));
	}

	/** Reads a date, or a month where no day is printed, as on a jar: "05/2027", "2027-05".
	 * @returns "2027-05-31" or "2027-05"; or why it is neither
	 */
	readDateOrMonth(typed: string): { value: string } | { why: string } {
		const [, first = '', then = ''] = /^\s*(\d{4}|\d{1,2})\s*[-./ ]\s*(\d{4}|\d{1,2})\s*\.?\s*$/.exec(typed) ?? [];
		const [year, month] = first.length === 4 ? [first, then] : [then, first];
		if (first === '' || year.length !== 4 || month.length > 2) {
			const read = this.readDate(typed);
			return 'why' in read ? { why: `${read.why} Where no day is printed: ${this.month('2026-11')}.` } : read;
		}
		if (!(Number(month) >= 1 && Number(month) <= 12)) return { why: `There is no month ${month}. Type it like ${this.month('2026-11')}.` };
		return { value: `${year}-${month.padStart(2, '0')}` };
	}

	/** Reads a date with its time by the wall clock, "27/11/2026 13:42", seconds where they were typed.
	 * @returns "2026-11-27T13:42:00"; or why it is none
	 */
	readDateTime(typed: string): { value: string } | { why: string } {
		const parts = /^(.*?)[\sT]+(\d{1,2}):(\d\d)(?::(\d\d))?\s*$/.exec(typed);
		if (!parts) return { why: `Type date and time like ${this.date('2026-11-27')} 13:42.` };
		const [, day = '', hour = '', minute = '', second = '00'] = parts;
		const read = this.readDate(day);
		if ('why' in read) return read;
		if (Number(hour) > 23 || Number(minute) > 59 || Number(second) > 59)
			return { why: `There is no time ${hour}:${minute}. Hours go to 23.` };
		return { value: `${read.value}T${hour.padStart(2, '0')}:${minute}:${second}` };
	}

	/** Day and month in a line of text, "27 Nov". */
	day(at: number | Date | string, timeZone: string): string {
		const parts = Object.fromEntries(
			new Intl.DateTimeFormat('en-GB', { timeZone, day: 'numeric', month: 'short' })
				.formatToParts(new Date(at))
				.map((p) => [p.type, p.value])
		);
		return this.#monthFirst ? `${parts.month} ${parts.day}` : `${parts.day} ${parts.month}`;
	}

	/** Wall-clock time, "13:42": shifts run through the day, so that everybody's has 24 hours. */
	clockTime(at: number | Date | string, timeZone: string): string {
		return new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' }).format(new Date(at));
	}

	/** Date and time in a line of text, "27 Nov 13:42". */
	dayTime(at: number | Date | string, timeZone: string): string {
		return `${this.day(at, timeZone)} ${this.clockTime(at, timeZone)}`;
	}

	/** The first day of the week, Monday = 1. */
	get firstWeekday(): number {
		const locale: Intl.Locale & { getWeekInfo?: () => { firstDay: number }; weekInfo?: { firstDay: number } } = new Intl.Locale(
			this.preferences.locale
		);
		return (locale.getWeekInfo?.() ?? locale.weekInfo)?.firstDay ?? 1;
	}

	/** Reads what somebody typed into a field that is kept in `unit`; a unit that was typed with it counts.
	 * @example new Say({ locale: 'en-GB', units: 'metric' }).read('5 mil', 'µm') // => { value: 127, unit: 'mil' }
	 */
	read(text: string, unit = ''): Typed {
		const typed = /^(?<digits>[^a-zµμ°"%]*?)\s*(?<unit>[a-zµμ°"%][^\s]*)?$/iu.exec(text.trim().replaceAll('μ', 'µ'));
		const { digits = '', unit: withUnit } = typed?.groups ?? {};
		const other = this.sign === '.' ? ',' : '.';
		const read = readNumber(digits, this.sign) ?? readNumber(digits, other);
		if (!read || read.unit !== null) return { why: `“${text.trim().slice(0, 40)}” is no number.` };
		if (withUnit === undefined) return { value: unit ? clean(this.canonical(read.value, unit)) : read.value, unit: null };
		const known = TYPED[withUnit.toLowerCase()];
		if (!known) return { why: `“${withUnit.slice(0, 20)}” is no unit that is known here.` };
		const [measured, each, at0 = 0] = known;
		const factor = measured === '°C' && unit === 'K' ? 1 : times(measured, unit);
		if (factor === null)
			return { why: unit ? `“${withUnit}” does not measure this: it is in ${this.unit(unit)}.` : 'This takes a number without a unit.' };
		return { value: clean((read.value - (unit === 'K' ? 0 : at0)) * each * factor), unit: withUnit };
	}
}

/** Without the last digits, which are of the reckoning and of nobody's measuring. */
const clean = (value: number) => Number(value.toPrecision(12));

const said = new Map<string, Say>();
/** One of each, made once. */
export function sayFor({ locale, units }: Preferences): Say {
	const key = `${locale} ${units}`;
	const known = said.get(key);
	if (known) return known;
	const made = new Say({ locale, units });
	said.set(key, made);
	return made;
}

export const PLAIN: Preferences = { locale: 'en-GB', units: 'metric' };
