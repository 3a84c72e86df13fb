/** What a profile is judged by. */
export interface ProfileMetrics {
	peakC: number;
	/** Total length of the curve strictly above the reference, s. */
	aboveReferenceS: number;
	/** First upward crossing of the lower to the first of the upper soak temperature; null where the upper is never reached. */
	soakS: number | null;
	/** Largest rise before the peak and largest fall after it, over a chord of `windowS`, °C/s. */
	maxRiseCPerS: number;
	maxFallCPerS: number;
	/** First upward crossing of 25 °C to the peak, s. */
	toPeakS: number | null;
}

export interface MetricSettings {
	referenceC: number;
	soakFromC: number;
	soakToC: number;
	/** Chord of the ramps, s; always printed, since shops use 1 to 30 s. */
	windowS: number;
}

/** Measures a curve.
 * @param timeS rising; @param tempC same length
 * @see definitions fixed by us and printed on the page; check values in checks/reflow.test.ts
 */
export function profileMetrics(timeS: readonly number[], tempC: readonly number[], settings: MetricSettings): ProfileMetrics {
	let peakAt = 0;
	tempC.forEach((c, i) => {
		if (c > tempC[peakAt]!) peakAt = i;
	});
	const soakFrom = firstCrossing(timeS, tempC, settings.soakFromC);
	const soakTo = firstCrossing(timeS, tempC, settings.soakToC);
	const warm = firstCrossing(timeS, tempC, 25 + 1e-9);
	const ramps = chordSlopes(timeS, tempC, settings.windowS);
	const peakS = timeS[peakAt] ?? 0;
	return {
		peakC: tempC[peakAt] ?? NaN,
		aboveReferenceS: timeAbove(timeS, tempC, settings.referenceC),
		soakS: soakFrom !== null && soakTo !== null ? soakTo - soakFrom : null,
		maxRiseCPerS: Math.max(0, ...ramps.filter((r) => r.centreS <= peakS).map((r) => r.slope)),
		maxFallCPerS: Math.max(0, ...ramps.filter((r) => r.centreS > peakS).map((r) => -r.slope)),
		toPeakS: warm === null ? null : peakS - warm
	};
}

/** First upward crossing by linear interpolation: y[i−1] < level <= y[i]. */
export function firstCrossing(timeS: readonly number[], tempC: readonly number[], level: number): number | null {
	for (let i = 1; i < timeS.length; i++) {
		const [a, b] = [tempC[i - 1]!, tempC[i]!];
		if (a < level && level <= b) return timeS[i - 1]! + ((level - a) / (b - a)) * (timeS[i]! - timeS[i - 1]!);
	}
	return null;
}

/** Total length of the interpolated curve strictly above a level, s. */
export function timeAbove(timeS: readonly number[], tempC: readonly number[], level: number): number {
	let sum = 0;
	for (let i = 1; i < timeS.length; i++) {
		const [a, b] = [tempC[i - 1]! - level, tempC[i]! - level];
		const dt = timeS[i]! - timeS[i - 1]!;
		if (a > 0 && b > 0) sum += dt;
		else if (a > 0 || b > 0) sum += (dt * Math.max(a, b)) / (Math.abs(a) + Math.abs(b));
	}
	return sum;
}

/** Slope of the chord over a window around each sample that the window fits around. */
function chordSlopes(timeS: readonly number[], tempC: readonly number[], windowS: number) {
	const slopes: { centreS: number; slope: number }[] = [];
	let low = 0;
	let high = 0;
	const at = (t: number, from: number) => {
		let i = from;
		while (i < timeS.length - 2 && timeS[i + 1]! < t) i++;
		const share = (t - timeS[i]!) / (timeS[i + 1]! - timeS[i]!);
		return { i, c: tempC[i]! + share * (tempC[i + 1]! - tempC[i]!) };
	};
	const [begin, end] = [timeS[0] ?? 0, timeS.at(-1) ?? 0];
	for (const centreS of timeS) {
		if (centreS - windowS / 2 < begin || centreS + windowS / 2 > end) continue;
		const left = at(centreS - windowS / 2, low);
		const right = at(centreS + windowS / 2, high);
		[low, high] = [left.i, right.i];
		slopes.push({ centreS, slope: (right.c - left.c) / windowS });
	}
	return slopes;
}
