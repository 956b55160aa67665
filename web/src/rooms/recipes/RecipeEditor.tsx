import { Button, SegmentedControl } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { Staircase } from '../../charts/staircase/Staircase';
import { fixed, plural } from '../../ui/numbers';
import { Amounts, MoreAmounts } from './Amounts';
import { type Against, CheckedAgainst } from './CheckedAgainst';
import { moved, stepsOf, tidyDocument } from './edits';
import { Findings } from './Findings';
import { Outlook } from './Outlook';
import { type Checked, checkQuery, type RecipeDocument } from './queries';
import classes from './Recipes.module.css';
import { StepTable } from './StepTable';

type RecipeEditorProps = {
  doc: RecipeDocument;
  set: (doc: RecipeDocument) => void;
  undo?: (() => void) | undefined;
  /** Above everything: the name, and what can be done with the whole recipe. */
  head: (checked: Checked | undefined) => React.ReactNode;
  /** Beside it: saving, versions. */
  aside: (checked: Checked | undefined) => React.ReactNode;
};

const CHECK_AFTER_MS = 120;

/** A recipe as staircase and as table, checked at every change. */
export function RecipeEditor({ doc, set, undo, head, aside }: RecipeEditorProps) {
  const [typed, setTyped] = useState<{ of: RecipeDocument; what: Partial<RecipeDocument> } | null>(null);
  // What is being typed counts until the document itself changes.
  const shown = useMemo(() => (typed?.of === doc ? { ...doc, ...typed.what } : doc), [doc, typed]);
  const [settled] = useDebouncedValue(shown, CHECK_AFTER_MS);
  const [against, setAgainst] = useState<Against>({ brewer: '', windows: [] });
  const { data: checked } = useQuery(checkQuery(settled, against.brewer, against.windows));
  const [selected, setSelected] = useState<number | null>(null);
  const [perPour, setPerPour] = useState(() => writtenPerPour(doc));
  useUndoKey(undo);

  const writeAs = (how: string) => {
    setPerPour(how === 'per_pour');
    if (checked) set(tidyDocument(how === 'per_pour' ? checked.per_pour : checked.cumulative));
  };
  const show = (where: string) => {
    const [, row, field] = /^steps\.(\d+)\.(\w+)/.exec(where) ?? [];
    if (row === undefined) document.getElementById(where)?.focus();
    else focusCell(Number(row), field ?? '');
  };
  return (
    <div className={classes.editor}>
      <div className={classes.main}>
        {head(checked)}
        <Amounts doc={doc} checked={checked} onChange={set} onTyping={(what) => setTyped({ of: doc, what })} />
        <section className="card" aria-label="Steps">
          <div className={classes.stepsHead}>
            <p className={classes.forms}>{checked && <Forms checked={checked} />}</p>
            <Button size="compact-sm" variant="subtle" disabled={!undo} onClick={undo}>
              Undo
            </Button>
            <SegmentedControl
              size="xs"
              aria-label="Water is written"
              value={perPour ? 'per_pour' : 'cumulative'}
              onChange={writeAs}
              data={[
                { value: 'cumulative', label: 'scale reading' },
                { value: 'per_pour', label: 'each pour' },
              ]}
            />
          </div>
          <Staircase
            timeline={checked?.timeline ?? []}
            total_s={checked?.total_s ?? 0}
            window_s={doc.total_time_s}
            height={218}
            selected={selected}
            onSelect={setSelected}
            onMove={(index, by) => {
              const timed = checked?.timeline.find((t) => t.index === index);
              if (timed && index < stepsOf(doc).length) set(moved(doc, timed, by));
            }}
          />
          <p className={`${classes.stairHint} quiet small key-hint`}>
            Drag a stair, or focus it: <kbd>↑↓</kbd> grams, <kbd>←→</kbd> seconds, <kbd>Shift ←→</kbd> longer.
          </p>
          <StepTable
            doc={doc}
            checked={checked}
            perPour={perPour}
            selected={selected}
            onSelect={setSelected}
            onChange={set}
          />
          <MoreAmounts doc={doc} checked={checked} onChange={set} />
        </section>
      </div>
      <aside className={classes.side} aria-label="Check">
        {aside(checked)}
        <section>
          <h2>{checked ? headline(checked) : 'Checking…'}</h2>
          {checked && <Findings findings={checked.findings} onMend={(d) => set(tidyDocument(d))} onShow={show} />}
          <CheckedAgainst against={against} onChange={setAgainst} />
        </section>
        {checked && <Outlook checked={checked} />}
      </aside>
    </div>
  );
}

function Forms({ checked }: { checked: Checked }) {
  if (!checked.brew_ratio) return <>Water and dose give the ratio.</>;
  return (
    <>
      <b className="num">1:{fixed(checked.brew_ratio, 1)}</b> in ·{' '}
      <span className="num">{fixed(checked.g_per_l, 1)} g/L</span> ·{' '}
      <span className="num">{fixed(checked.g_per_100g, 2)} g per 100 g</span>
      {checked.bypass_g > 0 && (
        <>
          {' '}
          · bypass <span className="num">{fixed(100 * checked.bypass_share, 0)} %</span>
        </>
      )}
      {checked.concentrate && <b className={classes.concentrate}>concentrate</b>}
    </>
  );
}

function headline(checked: Checked): string {
  const errors = checked.findings.filter((f) => f.severity === 'error').length;
  if (errors) return `${plural(errors, 'error')}: a draft, not for a run yet`;
  const doubts = checked.findings.filter((f) => f.severity === 'warning').length;
  return doubts ? `Can be brewed, ${plural(doubts, 'warning')}` : 'Can be brewed';
}

/** A recipe that says each pour on its own is shown that way. */
function writtenPerPour(doc: RecipeDocument): boolean {
  const pours = stepsOf(doc).filter((s) => s.kind === 'bloom' || s.kind === 'pour');
  return pours.length > 1 && pours.every((s) => s.add_g != null);
}

const COLUMNS: Record<string, string> = {
  to_g: 'water',
  add_g: 'water',
  reading_g: 'water',
  start_s: 'from',
  duration_s: 'for',
  end_s: 'by',
  temperature_c: 'heat',
  zeroed: 'where',
};

function focusCell(row: number, field: string) {
  const cells = [...document.querySelectorAll<HTMLElement>(`tr[data-row="${row}"] [data-column]`)];
  (cells.find((c) => c.dataset.column === COLUMNS[field]) ?? cells[0])?.focus();
}

/** Ctrl+Z takes back a change of the recipe; inside a field it is the field's own. */
function useUndoKey(undo: (() => void) | undefined) {
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && /^(INPUT|TEXTAREA)$/.test(event.target.tagName);
      if (!undo || typing || event.key !== 'z' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      undo();
    };
    window.addEventListener('keydown', pressed);
    return () => window.removeEventListener('keydown', pressed);
  }, [undo]);
}
