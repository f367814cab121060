/** How much the demo holds, and whether anything in it goes wrong. */
export interface DemoSize {
  days: number;
  /** Visits on a usual day of the last weeks, and before them. */
  lately: number;
  before: number;
  latelyDays: number;
  /** How many ask, as a factor of the usual share. */
  asking: number;
  /** Weight of visitors who look at one page only. */
  onePage: number;
  /** Share of those who do not ask that look again some days later. */
  returning: number;
  /** False for a business without any fault. */
  faults: boolean;
}

export const sizes = {
  small: { days: 396, lately: 13, before: 0.6, latelyDays: 84, asking: 1, onePage: 6, returning: 0.16, faults: true },
  demo: {
    days: 396,
    lately: 195,
    before: 140,
    latelyDays: 84,
    asking: 0.1,
    onePage: 14,
    returning: 0.06,
    faults: true,
  },
  clean: { days: 396, lately: 13, before: 0.6, latelyDays: 84, asking: 1, onePage: 6, returning: 0.16, faults: false },
} satisfies Record<string, DemoSize>;

export const sizeNames = Object.keys(sizes) as [keyof typeof sizes, ...(keyof typeof sizes)[]];
