import { CALCULATIONS } from '$lib/api/calc/index.ts';
import { answer } from '$lib/server/answer.ts';

export async function GET() {
	return answer(async () => CALCULATIONS.map(({ name, summary }) => ({ name, summary })));
}
