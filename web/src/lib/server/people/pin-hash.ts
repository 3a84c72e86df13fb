import { verifyPassword } from 'better-auth/crypto';
import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';

const derive = promisify<string, Buffer, number, { N: number; r: number; p: number; maxmem: number }, Buffer>(scrypt);
/** Off the main thread, about 40 ms: a PIN is short, so each guess must cost something. */
const COST = { N: 2 ** 14, r: 8, p: 1, maxmem: 64 * 2 ** 20 };
const KEY_BYTES = 32;
const MARK = 'scrypt14';

export async function hashPin(pin: string): Promise<string> {
	const salt = randomBytes(16);
	const key = await derive(pin.normalize('NFKC'), salt, KEY_BYTES, COST);
	return [MARK, salt.toString('hex'), key.toString('hex')].join(':');
}

/** Hashes of an earlier version are the library's own: they are still read. */
export async function verifyPin(hash: string, pin: string): Promise<boolean> {
	const [mark, salt, key] = hash.split(':');
	if (mark !== MARK) return verifyPassword({ hash, password: pin });
	const given = await derive(pin.normalize('NFKC'), Buffer.from(salt!, 'hex'), KEY_BYTES, COST);
	return timingSafeEqual(given, Buffer.from(key!, 'hex'));
}
