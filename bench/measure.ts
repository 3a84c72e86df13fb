/** One line of the table: a time, and how it stands to a reference measured in the same run. */
export interface Measurement {
	what: string;
	ms: number;
	referenceMs: number;
	reference: string;
	/** Larger is slower. */
	ratio: number;
	/** What an issue asks for, where it does. */
	target: string;
	met: boolean | null;
}

/** The median of several runs, ms: one slow run of a shared machine does not decide. */
export async function median(runs: number, work: () => unknown): Promise<number> {
	const times: number[] = [];
	for (let i = 0; i < runs; i++) {
		const began = performance.now();
		await work();
		times.push(performance.now() - began);
	}
	return times.sort((a, b) => a - b)[Math.floor(runs / 2)]!;
}

/** Two works timed in turn, so that both meet the same weather. */
export async function pair(runs: number, work: () => unknown, reference: () => unknown): Promise<{ ms: number; referenceMs: number }> {
	const [a, b]: [number[], number[]] = [[], []];
	for (let i = 0; i < runs; i++) {
		a.push(await median(1, work));
		b.push(await median(1, reference));
	}
	const middle = (list: number[]) => list.sort((x, y) => x - y)[Math.floor(runs / 2)]!;
	return { ms: middle(a), referenceMs: middle(b) };
}

/** A fixed piece of arithmetic and sorting; ms on the machine that it was first run on, when that was quiet. */
const QUIET_KERNEL_MS = 300;

export async function slowness(): Promise<number> {
	const ms = await median(5, () => {
		let x = 1;
		const values = new Float64Array(1_500_000);
		for (let i = 0; i < values.length; i++) {
			x = (Math.imul(x, 1664525) + 1013904223) | 0;
			values[i] = Math.sqrt(Math.abs(x));
		}
		values.sort();
		return values[0];
	});
	return ms / QUIET_KERNEL_MS;
}
