import { ActionIcon, Button } from '@mantine/core';
import { IconArrowDown, IconArrowUp, IconTrash } from '@tabler/icons-react';
import { useQuery } from '@tanstack/react-query';
import { useRef } from 'react';
import { POUR_PATTERNS } from '../../api/vocabulary';
import { clock, exactClock } from '../../ui/numbers';
import { degrees, heatUnit } from '../../ui/units';
import { Cell } from './Cell';
import {
  insertStep,
  moveStep,
  removeStep,
  seenOf,
  seenText,
  stepsOf,
  type Taken,
  takes,
  withKind,
  withStep,
} from './edits';
import {
  type Checked,
  type RecipeDocument,
  type StepDocument,
  type StepKind,
  startersQuery,
  type TimedStep,
} from './queries';
import classes from './Recipes.module.css';
import { readCount, readGrams, readHeat, readTime } from './reads';

type StepTableProps = {
  doc: RecipeDocument;
  checked: Checked | undefined;
  perPour: boolean;
  selected: number | null;
  onSelect: (index: number) => void;
  onChange: (doc: RecipeDocument) => void;
};

const WHERES = [
  ['', ''],
  ...POUR_PATTERNS.map((p) => [p.code, p.label.replace(/^(in|at) (the |a |one )?/, '')] as const),
] as const;
const ZEROED = [
  ['', 'zeroed?'],
  ['with_coffee', 'with coffee'],
  ['empty', 'empty'],
] as const;

/** The steps as a table, all of it by keyboard: Enter goes down, Ctrl+Enter adds, Alt+arrows move, Ctrl+Delete takes out. */
export function StepTable({ doc, checked, perPour, selected, onSelect, onChange }: StepTableProps) {
  const table = useRef<HTMLTableElement>(null);
  const { data: words } = useQuery(startersQuery);
  const steps = stepsOf(doc);

  const focus = (row: number, column: string) =>
    requestAnimationFrame(() => {
      const cells = table.current?.querySelectorAll<HTMLElement>(`tr[data-row="${row}"] [data-column]`) ?? [];
      const same = [...cells].find((c) => c.dataset.column === column);
      (same ?? cells[0])?.focus();
    });
  const add = (at: number, column = 'kind') => {
    onChange(insertStep(doc, at, { kind: 'pour' }));
    focus(at, column);
  };
  const pressed = (event: React.KeyboardEvent, row: number) => {
    const at = event.target as HTMLElement;
    const column = at.dataset.column ?? 'kind';
    const isSelect = at.tagName === 'SELECT';
    if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) add(row + 1);
    else if (event.key === 'Enter' && !isSelect) row + 1 < steps.length ? focus(row + 1, column) : add(row + 1, column);
    else if (event.key === 'Delete' && (event.ctrlKey || event.metaKey)) {
      onChange(removeStep(doc, row));
      focus(Math.min(row, steps.length - 2), column);
    } else if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) {
      const by = event.key === 'ArrowUp' ? -1 : 1;
      onChange(moveStep(doc, row, by));
      focus(Math.max(0, Math.min(steps.length - 1, row + by)), column);
    } else if (!isSelect && event.key === 'ArrowUp' && row > 0) focus(row - 1, column);
    else if (!isSelect && event.key === 'ArrowDown' && row + 1 < steps.length) focus(row + 1, column);
    else return;
    event.preventDefault();
  };

  return (
    <div className={classes.tableWrap}>
      <table className={classes.steps} ref={table}>
        <thead>
          <tr>
            <th scope="col">
              <span className="sr-only">No.</span>
            </th>
            <th scope="col">Step</th>
            <th scope="col">{perPour ? 'Adds, g' : 'To, g'}</th>
            <th scope="col">From</th>
            <th scope="col">For</th>
            <th scope="col">By</th>
            <th scope="col">Where</th>
            <th scope="col">{heatUnit()}</th>
            <th scope="col">Times</th>
            <th scope="col">Once …, until …, note</th>
            <th scope="col">
              <span className="sr-only">Move or take out</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {steps.map((step, i) => (
            <tr
              // biome-ignore lint/suspicious/noArrayIndexKey: a step is known by its place; cells follow the document
              key={i}
              data-row={i}
              data-selected={selected === i}
              onKeyDown={(e) => pressed(e, i)}
              onFocus={() => onSelect(i)}
            >
              <StepRow
                step={step}
                index={i}
                doc={doc}
                checked={checked}
                perPour={perPour}
                labels={words?.step_labels ?? {}}
                onChange={onChange}
              />
            </tr>
          ))}
        </tbody>
      </table>
      <div className={classes.tableFoot}>
        <Button size="compact-sm" variant="default" onClick={() => add(steps.length)}>
          Add a step
        </Button>
        <span className="quiet small key-hint">
          <kbd>Enter</kbd> down · <kbd>Ctrl Enter</kbd> new step · <kbd>Alt ↑↓</kbd> move · <kbd>Ctrl Del</kbd> take out
        </span>
      </div>
    </div>
  );
}

type StepRowProps = {
  step: StepDocument;
  index: number;
  labels: Record<string, string>;
} & Pick<StepTableProps, 'doc' | 'checked' | 'perPour' | 'onChange'>;

function StepRow({ step, index, doc, checked, perPour, labels, onChange }: StepRowProps) {
  const has = (what: Taken) => takes(step.kind, what);
  const set = (change: Partial<StepDocument>) => onChange(withStep(doc, index, change));
  const name = `step ${index + 1}`;
  const timed = checked?.timeline.find((t) => t.index === index);
  const found = checked?.findings.filter((f) => f.where.startsWith(`steps.${index}.`)) ?? [];
  const faulty = (field: string) => found.some((f) => f.where === `steps.${index}.${field}`) || undefined;
  const time = (field: 'start_s' | 'duration_s' | 'end_s', label: string, column: string, usual?: number) => (
    <td>
      <Cell
        label={`${label}, ${name}`}
        shown={exactClock(step[field])}
        read={readTime}
        onValue={(v) => set({ [field]: v })}
        faulty={faulty(field)}
        placeholder={usual === undefined ? undefined : clock(usual)}
        column={column}
      />
    </td>
  );
  return (
    <>
      <td className={classes.rowNumber}>
        {found.length > 0 ? (
          <span className={classes.flag} title={found.map((f) => f.text).join(' ')}>
            {index + 1}
          </span>
        ) : (
          index + 1
        )}
      </td>
      <td>
        <select
          className={classes.kind}
          aria-label={`What is done, ${name}`}
          data-column="kind"
          value={step.kind}
          onChange={(e) => onChange(withKind(doc, index, e.currentTarget.value as StepKind))}
        >
          {Object.entries(labels).map(([code, label]) => (
            <option key={code} value={code}>
              {label}
            </option>
          ))}
        </select>
      </td>
      <td>
        {has('water') && (
          <WaterCell step={step} name={name} perPour={perPour} faulty={faulty} timed={timed} set={set} />
        )}
        {has('reading') && (
          <Cell
            label={`Scale says, ${name}`}
            shown={step.reading_g == null ? '' : String(step.reading_g)}
            read={readGrams}
            onValue={(v) => set({ reading_g: v })}
            faulty={faulty('reading_g')}
            placeholder="scale"
            column="water"
          />
        )}
      </td>
      {time(
        'start_s',
        'From',
        'from',
        timed && (timed.start_s > 0 || has('water')) ? Math.max(0, timed.start_s) : undefined,
      )}
      {time('duration_s', 'For', 'for', timed && step.end_s == null ? timed.end_s - timed.start_s : undefined)}
      {time('end_s', 'By', 'by', timed && timed.end_s > 0 ? timed.end_s : undefined)}
      <td>
        {has('where') && (
          <Choice
            label={`Where, ${name}`}
            column="where"
            value={step.where ?? ''}
            options={WHERES}
            onChange={(v) => set({ where: v as StepDocument['where'] })}
          />
        )}
        {has('reading') && (
          <Choice
            label={`What stood on the scale when it was zeroed, ${name}`}
            column="where"
            value={step.zeroed ?? ''}
            options={ZEROED}
            onChange={(v) => set({ zeroed: v as StepDocument['zeroed'] })}
          />
        )}
      </td>
      <td>
        {has('heat') && (
          <Cell
            label={`Temperature, ${name}`}
            shown={step.temperature_c == null ? '' : degrees(step.temperature_c)}
            read={readHeat}
            onValue={(v) => set({ temperature_c: v })}
            faulty={faulty('temperature_c')}
            placeholder={doc.temperature_c == null ? undefined : degrees(doc.temperature_c)}
            column="heat"
          />
        )}
      </td>
      <td>
        {has('count') && (
          <Cell
            label={`Times, ${name}`}
            shown={step.count == null ? '' : String(step.count)}
            read={readCount}
            onValue={(v) => set({ count: v })}
            column="count"
          />
        )}
      </td>
      <td>
        <Cell
          label={`Once and until you see, and a note, ${name}`}
          shown={seenText(step)}
          onText={(text) => set(seenOf(text))}
          column="cue"
          wide
        />
      </td>
      <td className={classes.rowActions}>
        <ActionIcon
          size={26}
          variant="subtle"
          aria-label={`Move ${name} up`}
          onClick={() => onChange(moveStep(doc, index, -1))}
          tabIndex={-1}
        >
          <IconArrowUp size={15} />
        </ActionIcon>
        <ActionIcon
          size={26}
          variant="subtle"
          aria-label={`Move ${name} down`}
          onClick={() => onChange(moveStep(doc, index, 1))}
          tabIndex={-1}
        >
          <IconArrowDown size={15} />
        </ActionIcon>
        <ActionIcon
          size={26}
          variant="subtle"
          color="red"
          aria-label={`Take out ${name}`}
          onClick={() => onChange(removeStep(doc, index))}
          tabIndex={-1}
        >
          <IconTrash size={15} />
        </ActionIcon>
      </td>
    </>
  );
}

type WaterCellProps = {
  step: StepDocument;
  name: string;
  perPour: boolean;
  faulty: (field: string) => true | undefined;
  timed: TimedStep | undefined;
  set: (change: Partial<StepDocument>) => void;
};

/** What a pour reaches or adds; bypass always adds, and "rest" fills up to the stated water. */
function WaterCell({ step, name, perPour, faulty, timed, set }: WaterCellProps) {
  const adds = perPour || step.kind === 'bypass';
  const stated = step.to_g != null || step.add_g != null;
  const other = stated ? (adds ? timed?.water_g : timed?.to_g) : null; // written the other way: as worked out
  const value = (adds ? step.add_g : step.to_g) ?? other;
  const shown = step.rest ? 'rest' : value == null ? '' : String(Math.round(value * 10) / 10);
  return (
    <Cell
      label={`${adds ? 'Adds' : 'To'}, ${name}`}
      shown={shown}
      read={async (text) => (step.kind === 'bypass' && /^rest$/i.test(text) ? -1 : readGrams(text))}
      onValue={(v) => {
        if (v === -1) set({ rest: true, add_g: null });
        else if (v === null) set({ to_g: null, add_g: null, rest: false });
        else set(adds ? { add_g: v, to_g: null, rest: false } : { to_g: v, add_g: null, rest: false });
      }}
      faulty={faulty('to_g') || faulty('add_g')}
      placeholder={value == null && timed?.to_g ? String(Math.round(timed.to_g)) : undefined}
      column="water"
    />
  );
}

type ChoiceProps = {
  label: string;
  column: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
};

function Choice({ label, column, value, options, onChange }: ChoiceProps) {
  return (
    <select
      className={classes.choice}
      aria-label={label}
      data-column={column}
      value={value}
      onChange={(e) => onChange(e.currentTarget.value)}
    >
      {options.map(([code, text]) => (
        <option key={code} value={code}>
          {text}
        </option>
      ))}
    </select>
  );
}
