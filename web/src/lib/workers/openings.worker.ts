import type { LayerOpening } from '@keen-relay/core/stencil';
import { openingsJudge, type JudgedOpenings, type OpeningsTask } from '@keen-relay/core/stencil';
import { packPads, type PackedPads } from './packed-pads.ts';

export type OpeningsQuestion = { kind: 'layer'; layer: LayerOpening[]; names: string[] } | { kind: 'task'; task: OpeningsTask };
export type PackedAnswer = Omit<JudgedOpenings, 'openings'> & { pads: PackedPads };

let judge: ReturnType<typeof openingsJudge> | null = null;

/** Keeps a layer and judges it under whatever rules it is asked about. */
self.onmessage = ({ data }: MessageEvent<OpeningsQuestion>) => {
	if (data.kind === 'layer') {
		judge = openingsJudge(data.layer, data.names);
		return;
	}
	if (!judge) return;
	const { openings, ...judged } = judge(data.task);
	const pads = packPads(openings);
	self.postMessage({ ...judged, pads } satisfies PackedAnswer, {
		transfer: [pads.corners.buffer, pads.starts.buffer, pads.centres.buffer]
	});
};
