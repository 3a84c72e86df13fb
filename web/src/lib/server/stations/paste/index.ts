import { stationModule } from '../module.ts';
import { sensorReading } from './messages.ts';
import { pasteStory } from './story.ts';
import { pasteSummary } from './summary.ts';
import { sensorTaker } from './take.ts';

export const paste = stationModule({
	role: 'paste',
	messages: [sensorReading],
	taker: sensorTaker,
	summary: pasteSummary,
	story: pasteStory
});
