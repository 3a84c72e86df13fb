declare global {
	interface Window {
		/** What was pressed or chosen before the page came alive (see app.html); null since. */
		early?: { type: 'submit' | 'change' | 'click' | 'input'; target: HTMLElement; value?: string | undefined }[] | null;
	}
}

/** Does what a person did before the page had come alive: a slow panel PC shows the page first. */
export function doEarly(): void {
	const early = window.early ?? [];
	window.early = null;
	for (const { type, target, value } of early)
		if (type === 'submit') (target as HTMLFormElement).requestSubmit();
		else if (type === 'click') target.click();
		else {
			if (value !== undefined) (target as HTMLInputElement).value = value;
			target.dispatchEvent(new Event(type, { bubbles: true }));
		}
}
