/** Codes by which PostgreSQL or the network say that the database is away, not that the request was wrong. */
const AWAY = /^(08|57P0|53300|ECONN|EPIPE|ETIMEDOUT|ENOTFOUND|EAI_AGAIN)/;

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
