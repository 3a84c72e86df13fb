import { stationModule } from '../module.ts';
import { feederLoaded, placement } from './messages.ts';
import { placeStory } from './story.ts';
import { placeSummary } from './summary.ts';
import { placeTaker } from './take.ts';

export const place = stationModule({
	role: 'place',
	messages: [placement, feederLoaded],
	taker: placeTaker,
	rows: [{ table: 'placement_report', at: 'placed_at', key: ['station_id'], station: 'station_id' }],
	summary: placeSummary,
	story: placeStory
});
