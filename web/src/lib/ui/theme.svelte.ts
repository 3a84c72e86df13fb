type Theme = 'day' | 'night';

/** Day or night, kept on this computer. */
class ThemeState {
	now = $state<Theme>('day');

	read(): void {
		this.now = document.documentElement.dataset.theme === 'night' ? 'night' : 'day';
	}

	toggle(): void {
		this.now = this.now === 'day' ? 'night' : 'day';
		document.documentElement.dataset.theme = this.now;
		localStorage.setItem('theme', this.now);
	}
}

export const theme = new ThemeState();
