/** Seeded random numbers, so that a run repeats. */
export interface Random {
	/** Uniform in [0, 1). */
	uniform(): number;
	/** Normal with mean 0 and standard deviation 1. */
	normal(): number;
	/** An integer in [0, n). */
	integer(n: number): number;
	/** True with probability p. */
	chance(p: number): boolean;
}

/** sfc32 seeded through splitmix32: small, fast, 128-bit state; passes the usual test batteries (common practice).
 * @param seed any 32-bit integer; the same seed gives the same sequence
 */
export function seededRandom(seed: number): Random {
	let s = seed >>> 0;
	const mix = () => {
		s = (s + 0x9e3779b9) | 0;
		let t = s ^ (s >>> 16);
		t = Math.imul(t, 0x21f0aaad);
		t ^= t >>> 15;
		t = Math.imul(t, 0x735a2d97);
		return (t ^ (t >>> 15)) >>> 0;
	};
	let [a, b, c, d] = [mix(), mix(), mix(), mix()];
	const uniform = () => {
		const t = (((a + b) | 0) + d) | 0;
		d = (d + 1) | 0;
		a = b ^ (b >>> 9);
		b = (c + (c << 3)) | 0;
		c = (c << 21) | (c >>> 11);
		c = (c + t) | 0;
		return (t >>> 0) / 4294967296;
	};
	for (let i = 0; i < 12; i++) uniform();
	let spare: number | null = null;
	const normal = () => {
		if (spare !== null) {
			const value = spare;
			spare = null;
			return value;
		}
		const radius = Math.sqrt(-2 * Math.log(1 - uniform()));
		const angle = 2 * Math.PI * uniform();
		spare = radius * Math.sin(angle);
		return radius * Math.cos(angle);
	};
	return { uniform, normal, integer: (n) => Math.floor(uniform() * n), chance: (p) => uniform() < p };
}
