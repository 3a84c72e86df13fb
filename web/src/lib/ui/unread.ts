type Field = HTMLInputElement | HTMLTextAreaElement;

/** The first field there whose text could not be read as the number or date it takes; the value beside it is still the last one that could. */
export function unreadIn(within: ParentNode | null | undefined, counts: (field: Field) => boolean = () => true): Field | null {
	const fields = within?.querySelectorAll<Field>('input, textarea') ?? [];
	return [...fields].find((field) => field.validity.customError && !field.disabled && counts(field)) ?? null;
}
