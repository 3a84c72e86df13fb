/** A small board that the demo's generator never saw: files as a stranger would bring them. */
const CHIPS = Array.from({ length: 12 }, (_, i) => ({ refDes: `R${i + 1}`, x: 5 + (i % 6) * 5, y: 6 + Math.floor(i / 6) * 9 }));
const DRIVER = { refDes: 'U1', x: 20, y: 24 };

export const PASTE = [
	'G04 mushroom-house humidity controller*',
	'%FSLAX33Y33*%',
	'%MOMM*%',
	'%ADD10R,0.500X0.540*%',
	'%ADD11R,0.600X1.400*%',
	'D10*',
	...CHIPS.flatMap(({ x, y }) => [`X${(x - 0.48) * 1000}Y${y * 1000}D03*`, `X${(x + 0.48) * 1000}D03*`]),
	'D11*',
	...[-1.905, -0.635, 0.635, 1.905].flatMap((dx) =>
		[-2.65, 2.65].map((dy) => `X${Math.round((DRIVER.x + dx) * 1000)}Y${Math.round((DRIVER.y + dy) * 1000)}D03*`)
	),
	'M02*',
	''
].join('\n');

export const POSITIONS = [
	'Ref;X [mm];Y [mm];Rot;Side;Value;Package',
	...CHIPS.map(({ refDes, x, y }) => `${refDes};${x},0;${y},0;0;T;10k;RESC1005X40N`),
	`${DRIVER.refDes};20,0;24,0;0;T;fan driver;SOIC127P600X175-8`,
	''
].join('\n');

export const PARTS_LIST =
	'Part number,Designators,Quantity,Value,Package\nHU-R-10K,R1-R12,12,10k,RESC1005X40N\nHU-U-1,U1,1,fan driver,SOIC127P600X175-8\n';

export const file = (name: string, content: string | Buffer) => ({
	name,
	mimeType: 'application/octet-stream',
	buffer: Buffer.from(content)
});
