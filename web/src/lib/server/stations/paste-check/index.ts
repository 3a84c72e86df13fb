import { stationModule } from '../module.ts';
import { pasteInspection, pasteSums } from './messages.ts';
import { movedPaste } from './moved.ts';
import { pasteCheckStory } from './story.ts';
import { pasteCheckSummary } from './summary.ts';
import { pasteCheckTaker } from './take.ts';

export const pasteCheck = stationModule({
	role: 'pasteCheck',
	messages: [pasteInspection, pasteSums],
	taker: pasteCheckTaker,
	rows: [{ table: 'paste_summary', at: 'measured_at', key: ['print_attempt', 'inspection_attempt'], station: null, moved: movedPaste }],
	summary: pasteCheckSummary,
	story: pasteCheckStory
});
