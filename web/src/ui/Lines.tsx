import { type ReactNode, useEffect, useRef } from 'react';
import classes from './Lines.module.css';

/** A table that a phone shows as lines: one block a row, each figure beside the word its column is headed by. label: what stands in it. */
export function Lines(p: { label: string; className?: string | undefined; children: ReactNode }) {
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    const whole = box.current!;
    name(whole);
    const watch = new MutationObserver(() => name(whole));
    watch.observe(whole, { childList: true, subtree: true });
    return () => watch.disconnect();
  }, []);
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: at a desk too narrow for it, it scrolls, so the keyboard must reach it
    <section ref={box} className={`${classes.lines} ${p.className ?? ''}`} aria-label={p.label} tabIndex={0}>
      {p.children}
    </section>
  );
}

/** The words of the head, written at each cell once, for the style sheet to show. */
function name(whole: HTMLElement) {
  for (const table of whole.querySelectorAll('table')) {
    const heads = [...(table.tHead?.rows[0]?.cells ?? [])].map((cell) => cell.textContent?.trim() ?? '');
    for (const body of table.tBodies)
      for (const row of body.rows)
        [...row.cells].forEach((cell, i) => {
          if (cell.tagName === 'TD') cell.dataset.head = heads[i] ?? '';
        });
  }
}
