type Field = HTMLInputElement | HTMLTextAreaElement;

/** The first field there whose text could not be read as the number or date it takes; the value beside it is still the last one that could. */
export function unreadIn(within: ParentNode | null | undefined, counts: (field: Field) => boolean = () => true): Field | null {
	// A form's fields may stand elsewhere on the page, tied to it by its name.
	const elements = within instanceof HTMLFormElement ? within.elements : (within?.querySelectorAll('input, textarea') ?? []);
	const fields = [...elements].filter((field): field is Field => field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement);
	return fields.find((field) => field.validity.customError && !field.disabled && counts(field)) ?? null;
}
