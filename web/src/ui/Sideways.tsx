import type { ReactNode } from 'react';

/** What may be wider than a phone and scrolls in its own box, which the keyboard reaches too. label: what stands in it. */
export function Sideways(p: { label: string; className?: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls, so the keyboard must reach it
    <section className={p.className} style={{ minWidth: 0, overflowX: 'auto' }} aria-label={p.label} tabIndex={0}>
      {p.children}
    </section>
  );
}
