import type { ColumnType } from 'kysely';
import type { Point } from '@keen-relay/core/geometry';

// What the database cannot say of its own columns; .kysely-codegenrc.json says where each is used.

/** jsonb: read as it is, written as text. */
export type JsonOf<T> = ColumnType<T, string, string>;

/** How far a revision is: one released at a time, its contents never change. */
export type Status = 'draft' | 'released' | 'retired';

export interface TrialStep {
	/** Index of its setting. */
	setting: number;
	/** ISO time from which on panels are printed with it. */
	from: string;
}

/** The marks of stencil and board as a printer's camera read them, mm. */
export interface FiducialReading {
	stencilMarks: Point[];
	boardMarks: Point[];
}
