import { z } from 'zod';
import { moment, panel, says, type Said } from '../message-parts.ts';

export const ovenPass = says('oven_pass', 'a panel that left the oven', ['line', 'results'], {
	panel,
	enteredAt: moment.meta({ title: 'Entered' }),
	zoneC: z.array(z.number().min(-10).max(400)).max(40).meta({ title: 'Zones', unit: '°C' }),
	beltCmPerMin: z.number().positive().max(1000).meta({ title: 'Belt', unit: 'cm/min' })
});

export type OvenMessage = Said<typeof ovenPass>;
