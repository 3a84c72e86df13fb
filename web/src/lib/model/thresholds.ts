import type { SignatureThresholds } from '@keen-relay/core/inspection';

interface ThresholdWords {
	name: keyof SignatureThresholds;
	words: string;
	unit: string;
}

/** The thresholds of the causes as the page lists them, in groups. */
export const THRESHOLD_GROUPS: { group: string; rows: ThresholdWords[] }[] = [
	{
		group: 'Where the print lies',
		rows: [
			{ name: 'shiftUm', words: 'whole print shifted from', unit: 'µm' },
			{ name: 'rotationUm', words: 'turned, at the farthest pad, from', unit: 'µm' },
			{ name: 'stretchUm', words: 'stretched, at the farthest pad, from', unit: 'µm' },
			{ name: 'scatterUm', words: 'scatter from print to print from', unit: 'µm' },
			{ name: 'strokeOffsetUm', words: 'front and rear apart from', unit: 'µm' }
		]
	},
	{
		group: 'How the volume changes',
		rows: [
			{ name: 'strokeLp', words: 'front and rear strokes differ from', unit: '%' },
			{ name: 'clogLp', words: 'small openings fall until the wipe by', unit: '%' },
			{ name: 'ageingLp', words: 'falls over the run by', unit: '%' },
			{ name: 'topupLp', words: 'falls until the top-up by', unit: '%' },
			{ name: 'abandonLp', words: 'first print after a pause lower by', unit: '%' },
			{ name: 'tiltLp', words: 'end to end from', unit: '%' }
		]
	},
	{
		group: 'Places',
		rows: [
			{ name: 'supportLp', words: 'a place higher by', unit: '%' },
			{ name: 'nickLp', words: 'a strip differs by', unit: '%' },
			{ name: 'blockedLp', words: 'an opening lower by', unit: '%' }
		]
	},
	{
		group: 'Shape and level',
		rows: [
			{ name: 'gapHeightRatio', words: 'no seal: height ratio from', unit: '' },
			{ name: 'gapAreaRatio', words: 'and area ratio below', unit: '' },
			{ name: 'scoopRatio', words: 'scooped: large against small height to', unit: '' },
			{ name: 'scoopOthers', words: 'and small ones at least', unit: '' },
			{ name: 'slumpArea', words: 'slumped: area ratio from', unit: '' },
			{ name: 'slumpHeight', words: 'and height ratio to', unit: '' },
			{ name: 'levelLow', words: 'level low: volume ratio to', unit: '' },
			{ name: 'measurementLn', words: 'readings disagree: |ln| from', unit: '' }
		]
	},
	{
		group: 'Peaks and bridges',
		rows: [
			{ name: 'peakRatio', words: 'a peak: peak over mean height from', unit: '' },
			{ name: 'peakShare', words: 'on a share of the readings from', unit: '' },
			{ name: 'bridgesPerPanel', words: 'bridges from', unit: 'a panel' },
			{ name: 'bridgePanels', words: 'in at least', unit: 'panels' }
		]
	},
	{
		group: 'What is needed to say anything',
		rows: [
			{ name: 'leastT', words: '|t| or z at least', unit: '' },
			{ name: 'leastPanels', words: 'panels at least', unit: '' },
			{ name: 'leastWipeCycles', words: 'wipe cycles at least', unit: '' },
			{ name: 'leastPerStroke', words: 'panels a stroke at least', unit: '' },
			{ name: 'leastPads', words: 'pads at least', unit: '' }
		]
	}
];
