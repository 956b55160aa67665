import type { ReactNode } from 'react';

/** Our own small drawings, of coins, benches and brewers, on a grid of 24. */
const DRAWN = {
  /** Two coins on a bench, one of them turned. */
  bench: (
    <>
      <circle cx="8" cy="9.5" r="3" fill="currentColor" />
      <circle cx="16" cy="9.5" r="3" />
      <path d="M2.5 14h19M5.5 14v5.5M18.5 14v5.5" />
    </>
  ),

  /** One coin half over another: what is compared. */
  trials: (
    <>
      <circle cx="8.6" cy="12" r="6.2" />
      <path d="M12.2 17A6.2 6.2 0 1 0 12.2 7" />
      <path d="M8.6 9.4v5.2" />
    </>
  ),

  /** Pours as stairs, the drink running out under them. */
  recipes: (
    <>
      <path d="M3 17.5h4v-4h5v-4.5h5V5h4" />
      <path d="M5 21c6 0 10-2.5 15-8.5" strokeDasharray="1 2.4" />
    </>
  ),

  /** A cone over its server. */
  kit: (
    <>
      <path d="M4.5 3.5h15l-5 8.5h-5z" />
      <path d="M12 12v2.5M7 17v2a2.5 2.5 0 0 0 2.5 2.5h5A2.5 2.5 0 0 0 17 19v-2" />
    </>
  ),

  /** Sieves, one under the other, finer downwards. */
  grind: (
    <>
      <path d="M4 3.5v4.5h16V3.5M4 10v4.5h16V10M4 16.5V21h16v-4.5" />
      <path d="M8 8h.01M12 8h.01M16 8h.01M7 14.5h.01M10.3 14.5h.01M13.7 14.5h.01M17 14.5h.01" strokeWidth="2.2" />
    </>
  ),

  /** Two cups side by side, one fuller coloured than the other. */
  palate: (
    <>
      <path d="M2.5 7h7.5v6a3.75 3.75 0 0 1-7.5 0z" fill="currentColor" />
      <path d="M14 7h7.5v6a3.75 3.75 0 0 1-7.5 0z" />
      <path d="M3.5 20.5h17" />
    </>
  ),

  /** Coins on the plane of strength and yield. */
  charts: (
    <>
      <path d="M3.5 3.5v17h17" />
      <circle cx="9.5" cy="14" r="2.4" />
      <circle cx="16" cy="8.5" r="2.4" fill="currentColor" />
    </>
  ),
} satisfies Record<string, ReactNode>;

export type MarkName = keyof typeof DRAWN;

export function Mark({ of, size = 22 }: { of: MarkName; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 24 24"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.7"
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden
    >
      {DRAWN[of]}
    </svg>
  );
}
