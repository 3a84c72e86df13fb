/** What every message carries besides its own fields. */
export interface Sent {
	source: string;
	bootId: string;
	number: number;
	at: string;
	type: string;
	[field: string]: unknown;
}

/** Numbers the messages of one machine since its start: (source, boot id, number) is a message's identity. */
export class Sender {
	#next = 0;

	constructor(
		readonly source: string,
		private readonly bootId: string,
		private readonly out: (message: Sent) => void
	) {}

	send(atMs: number, type: string, fields: object): void {
		this.out({ source: this.source, bootId: this.bootId, number: this.#next++, at: new Date(atMs).toISOString(), type, ...fields });
	}
}
