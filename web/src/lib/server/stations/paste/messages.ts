import { z } from 'zod';
import { says, type Said } from '../message-parts.ts';

/** A temperature and humidity sensor; the source is "Sensors/" and its name. */
export const sensorReading = says('sensor_reading', 'a reading of a sensor', ['paste'], {
	temperatureC: z.number().min(-10).max(50).meta({ title: 'Temperature', unit: '°C' }),
	rhPct: z.number().min(1).max(100).optional().meta({ title: 'Relative humidity', unit: '%' })
});

export type SensorMessage = Said<typeof sensorReading>;
