import { describe, expect, test } from 'vitest';
import { LOCALES, PLAIN, sayFor } from './say.ts';

const plain = sayFor(PLAIN);
const german = sayFor({ locale: 'de-DE', units: 'metric' });
const american = sayFor({ locale: 'en-US', units: 'customary' });

describe('figures', () => {
	test('with the decimal sign of the person', () => {
		expect(plain.fixed(1234.5, 2)).toBe('1234.50');
		expect(german.fixed(1234.5, 2)).toBe('1234,50');
		expect(sayFor({ locale: 'de-CH', units: 'metric' }).fixed(0.5, 1)).toBe('0.5');
		expect(sayFor({ locale: 'sv-SE', units: 'metric' }).fixed(-0.5, 1)).toBe('-0,5');
	});

	test.each([
		[127, 0, 'µm', '5.0 mil'],
		[125, 0, 'µm', '4.9 mil'],
		[0.127, 3, 'mm', '0.0050 in'],
		[160, 0, 'mm', '6.3 in'],
		[0, 0, '°C', '32 °F'],
		[217, 0, '°C', '423 °F'],
		[9, 0, 'K', '16 °F'],
		[2, 1, '°C/s', '3.6 °F/s'],
		[500, 0, 'g', '17.6 oz'],
		[85, 0, 'cm/min', '33 in/min'],
		[60, 0, 'N', '13.5 lbf'],
		[3, 1, 's', '3.0 s'],
		[95, 0, '%', '95 %']
	])('%d (%i decimals) %s is %s in customary units', (value, decimals, unit, said) => {
		expect(american.quantity(value, decimals, unit)).toBe(said);
	});

	test('a difference of temperatures is said in degrees', () => {
		expect(plain.quantity(5, 0, 'K')).toBe('5 °C');
	});

	test('what stands in a field comes back as it was, in every way of writing', () => {
		for (const locale of LOCALES)
			for (const units of ['metric', 'customary'] as const) {
				const say = sayFor({ locale, units });
				for (const [value, unit] of [
					[0.25, 'mm'],
					[127, 'µm'],
					[245, '°C'],
					[1250, 'g'],
					[0.66, '']
				] as const) {
					const read = say.read(say.inField(value, unit), unit);
					expect('value' in read && Math.abs(read.value / value - 1)).toBeLessThan(5e-5);
				}
			}
		expect(german.inField(0.25, 'mm')).toBe('0,25');
		expect(american.inField(127, 'µm')).toBe('5');
	});

	test.each([
		[3, '3'],
		[0, '0'],
		[0.66, '0.660'],
		[12.3456, '12.35'],
		[123.456, '123.5'],
		[-0.1234, '-0.123'],
		[1234567.2, '1234567.2']
	])('%d without a step of its own is said “%s”', (value, text) => {
		expect(plain.number(value)).toBe(text);
		expect(german.number(value)).toBe(text.replace('.', ','));
	});

	test('titles carry the unit', () => {
		expect(american.title('height, µm')).toBe('height, mil');
		expect(american.title('Paste, per panel, g')).toBe('Paste, per panel, oz');
		expect(american.title('name, place')).toBe('name, place');
	});
});

describe('sentences of the core', () => {
	test.each([
		['9 K under the peak limit.', '9 °C under the peak limit.', '16 °F under the peak limit.'],
		['J-1 is 12.4 °C, it needs 19 °C.', 'J-1 is 12,4 °C, it needs 19 °C.', 'J-1 is 54.3 °F, it needs 66 °F.'],
		['2 to 8 °C', '2 to 8 °C', '36 to 46 °F'],
		['between 2 and 8 °C', 'between 2 and 8 °C', 'between 36 and 46 °F'],
		['slot 24 and 8 mm tape', 'slot 24 and 8 mm tape', 'slot 24 and 0.3 in tape'],
		['100 125 150 °C, 63.5 cm/min', '100 125 150 °C, 63,5 cm/min', '212 257 302 °F, 25.0 in/min'],
		['Line 5 3 mm', 'Line 5 3 mm', 'Line 5 0.1 in'],
		['38.5 ± 2.5 °C', '38,5 ± 2,5 °C', '101.3 ± 4.5 °F'],
		['off by 62 µm', 'off by 62 µm', 'off by 2.4 mil'],
		['160.00 × 100.00 mm', '160,00 × 100,00 mm', '6.299 × 3.937 in'],
		['-3.0 µm', '-3,0 µm', '-0.12 mil'],
		['mean 92.5 % of 4 pads', 'mean 92,5 % of 4 pads', 'mean 92.5 % of 4 pads'],
		['revision 2.0.1 of R1.2 at 192.168.0.1', 'revision 2.0.1 of R1.2 at 192.168.0.1', 'revision 2.0.1 of R1.2 at 192.168.0.1'],
		['L26-300.5 and 3 K-values', 'L26-300.5 and 3 K-values', 'L26-300.5 and 3 K-values'],
		['12 mm³ stay', '12 mm³ stay', '12 mm³ stay']
	])('%s', (sentence, inGerman, inAmerican) => {
		expect(german.text(sentence)).toBe(inGerman);
		expect(american.text(sentence)).toBe(inAmerican);
	});

	test('metric with points they stay as they are, but for differences', () => {
		expect(plain.text('0.127 mm at 25.5 °C')).toBe('0.127 mm at 25.5 °C');
		expect(plain.text('Zone 6 up 5 K')).toBe('Zone 6 up 5 °C');
	});
});

describe('what is typed', () => {
	test.each([
		['5 mil', 'µm', 127],
		['5mil', 'µm', 127],
		['0.127 mm', 'µm', 127],
		['0.005"', 'µm', 127],
		['0.005 in', 'mm', 0.127],
		['77 °F', '°C', 25],
		['77 f', '°C', 25],
		['1.5 kg', 'g', 1500],
		['2 min', 's', 120],
		['1 h', 'min', 60],
		['120 μm', 'µm', 120],
		['1 m/min', 'cm/min', 100],
		['50', '', 50]
	])('“%s” in a field in %s is %d', (text, unit, value) => {
		const read = plain.read(text, unit);
		expect('value' in read && read.value).toBeCloseTo(value, 9);
	});

	test('without a unit it is in the person’s', () => {
		expect(american.read('5', 'µm')).toEqual({ value: 127, unit: null });
		expect(american.read('212', '°C')).toEqual({ value: 100, unit: null });
		expect(german.read('0,25', 'mm')).toEqual({ value: 0.25, unit: null });
		expect(german.read('0.25', 'mm')).toEqual({ value: 0.25, unit: null });
		expect(german.read('1.250', 'g')).toEqual({ value: 1250, unit: null });
		expect(plain.read('1.250', 'g')).toEqual({ value: 1.25, unit: null });
	});

	test.each([
		['5 °C', 'µm', '“°C” does not measure this: it is in µm.'],
		['5 furlong', 'mm', '“furlong” is no unit that is known here.'],
		['abc', 'mm', '“abc” is no number.'],
		['', 'mm', '“” is no number.'],
		['5 mm', '', 'This takes a number without a unit.']
	])('“%s” in a field in %s is refused', (text, unit, why) => {
		expect(plain.read(text, unit)).toEqual({ why });
	});
});

test('dates and weeks', () => {
	expect(plain.date('2026-11-27')).toBe('27/11/2026');
	expect(german.date('2026-11-27')).toBe('27.11.2026');
	expect(american.date('2026-11-27')).toBe('11/27/2026');
	expect(sayFor({ locale: 'sv-SE', units: 'metric' }).date('2026-11-27')).toBe('2026-11-27');
	const at = '2026-11-27T23:30:00Z';
	expect(german.day(at, 'UTC')).toBe('27 Nov');
	expect(american.day(at, 'Europe/Berlin')).toBe('Nov 28');
	expect([german.firstWeekday, american.firstWeekday]).toEqual([1, 7]);
});

describe('dates that are typed', () => {
	test.each([
		[plain, '27/11/2026', '2026-11-27'],
		[plain, '3/12/2026', '2026-12-03'],
		[german, '3.12.2026', '2026-12-03'],
		[american, '3/12/2026', '2026-03-12'],
		[american, '2026-12-03', '2026-12-03'],
		[plain, ' 2026-2-28 ', '2026-02-28'],
		[plain, '29.2.2028', '2028-02-29']
	])('in the order of their own dates, or year first', (say, typed, value) => {
		expect(say.readDate(typed)).toEqual({ value });
	});

	test.each([
		[plain, '12/31/2026', /no month 31.*27\/11\/2026/],
		[american, '31/12/2026', /no month 31.*11\/27\/2026/],
		[plain, '29/2/2027', /no day 29/],
		[plain, '31/04/2026', /no day 31/],
		[plain, '0/4/2026', /no day 0/],
		[plain, '3/0/2026', /no month 0/],
		[plain, '27/11/26', /four digits/],
		[plain, 'tomorrow', /like 27\/11\/2026/],
		[plain, '', /like/]
	])('what is none is refused in words, never turned round', (say, typed, why) => {
		expect(say.readDate(typed)).toEqual({ why: expect.stringMatching(why) });
	});

	test('what is shown is read back, by everybody', () => {
		for (const locale of LOCALES) {
			const say = sayFor({ locale, units: 'metric' });
			expect(say.readDate(say.date('2026-02-03')), locale).toEqual({ value: '2026-02-03' });
		}
	});

	test('or a month, where no day is printed', () => {
		expect(german.readDateOrMonth('5.2027')).toEqual({ value: '2027-05' });
		expect(american.readDateOrMonth('12/2027')).toEqual({ value: '2027-12' });
		expect(plain.readDateOrMonth('2027-01')).toEqual({ value: '2027-01' });
		expect(plain.readDateOrMonth('31/5/2027')).toEqual({ value: '2027-05-31' });
		expect(plain.readDateOrMonth('2027-13')).toEqual({ why: expect.stringContaining('no month 13') });
		expect(plain.readDateOrMonth('0/2027')).toEqual({ why: expect.stringContaining('no month 0') });
		expect(plain.readDateOrMonth('5/27')).toEqual({ why: expect.stringContaining('11/2026') });
		for (const locale of LOCALES) {
			const say = sayFor({ locale, units: 'metric' });
			expect(say.readDateOrMonth(say.month('2027-02')), locale).toEqual({ value: '2027-02' });
		}
	});

	test('with the time by the wall clock', () => {
		expect(german.readDateTime('3.12.2026 9:05')).toEqual({ value: '2026-12-03T09:05:00' });
		expect(plain.readDateTime('2026-12-03T23:59:59')).toEqual({ value: '2026-12-03T23:59:59' });
		expect(plain.readDateTime('3/12/2026 24:00')).toEqual({ why: expect.stringContaining('Hours go to 23') });
		expect(plain.readDateTime('3/12/2026 12:60')).toEqual({ why: expect.stringContaining('no time 12:60') });
		expect(plain.readDateTime('3/12/2026')).toEqual({ why: expect.stringContaining('13:42') });
		expect(plain.readDateTime('32/12/2026 10:00')).toEqual({ why: expect.stringContaining('no day 32') });
	});
});
