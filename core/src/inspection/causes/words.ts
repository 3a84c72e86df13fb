/** A log-percent as people say it: how much more, or less, %. */
export const percent = (lp: number) => 100 * Math.expm1(lp / 100);
export const signed = (lp: number) => `${lp > 0 ? '+' : '−'}${Math.abs(percent(lp)).toFixed(1)} %`;
export const less = (lp: number, digits = 1) => `${Math.abs(percent(-Math.abs(lp))).toFixed(digits)} %`;
export const um = (v: number) => `${v.toFixed(0)} µm`;
