import { pasteReject } from '@keen-relay/core/trace';
import type { PasteResult } from '@keen-relay/core/inspection';
import type { Trx } from '../../db/index.ts';
import { raiseHolds, settleHolds } from '../../queries/holds.ts';
import type { BatchPass } from '../module.ts';

interface Judged {
	pass: BatchPass;
	printAttempt: number;
	measuredAt: Date;
	result: PasteResult;
}

/** Holds the panels whose paste was rejected, and lets those go on that were printed again and pass. A second look at the same print lets nothing go:
 * that is for an engineer to say.
 */
export async function holdRejects(trx: Trx, judged: readonly Judged[]): Promise<void> {
	if (judged.length === 0) return;
	const inOrder = [...judged].sort((a, b) => a.measuredAt.getTime() - b.measuredAt.getTime());
	for (const { pass, printAttempt, measuredAt, result } of inOrder) {
		if (result.result !== 'reject') {
			const again = await trx
				.selectFrom('hold')
				.select('id')
				.where('passId', '=', pass.id!)
				.where('code', '=', 'paste_reject')
				.where('liftedAt', 'is', null)
				.where('printAttempt', '<', printAttempt)
				.execute();
			const ids = again.map((hold) => hold.id);
			await settleHolds(trx, ids, { at: measuredAt, how: 'printed again and passed' });
			continue;
		}
		const now = await trx.selectFrom('panelPass').select('finishedAt').where('id', '=', pass.id!).executeTakeFirst();
		// What has left the line cannot be kept from the placers any more: its story says that it was rejected.
		if (now?.finishedAt) continue;
		const hold = pasteReject(pass.serial, printAttempt, result, measuredAt.getTime());
		await raiseHolds(trx, [{ ...hold, lineId: pass.run.lineId, passId: pass.id, printAttempt }]);
	}
}
