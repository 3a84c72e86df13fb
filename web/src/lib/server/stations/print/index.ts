import { stationModule } from '../module.ts';
import { pasteLoaded, printed } from './messages.ts';
import { printStory } from './story.ts';
import { printSummary } from './summary.ts';
import { printTaker } from './take.ts';

export const print = stationModule({
	role: 'print',
	messages: [printed, pasteLoaded],
	taker: printTaker,
	summary: printSummary,
	story: printStory
});
