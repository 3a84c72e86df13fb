/** Codes by which PostgreSQL or the network say that the database is away, not that the request was wrong. */
const AWAY = /^(08|57P0|53300|ECONN|EPIPE|ETIMEDOUT|ENOTFOUND|EAI_AGAIN)/;

/** What the pool says where every connection is at work and nothing came free in time: the database is there, there is too much to do. */
const BUSY = /timeout exceeded when trying to connect/i;

/** What to tell whoever asked while the database could not be had. */
export function awayWords(caught: unknown): string {
	for (let e = caught; typeof e === 'object' && e !== null; e = (e as { cause?: unknown }).cause)
		if (BUSY.test(String((e as { message?: unknown }).message ?? ''))) return 'More is asked than the server can answer just now.';
	return 'The database cannot be reached just now.';
}

export function isAway(caught: unknown): boolean {
	if (typeof caught !== 'object' || caught === null) return false;
	const { code, message, cause } = caught as { code?: unknown; message?: unknown; cause?: unknown };
	if (typeof code === 'string' && AWAY.test(code)) return true;
	if (
		typeof message === 'string' &&
		/Connection terminated|connection timeout|trying to connect|Client has encountered a connection error/i.test(message)
	)
		return true;
	return cause !== undefined && cause !== caught && isAway(cause);
}
