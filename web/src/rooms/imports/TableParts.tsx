import { Button, Checkbox, SegmentedControl, Textarea } from '@mantine/core';
import { type ReactNode, useState } from 'react';
import { Refused } from '../../api/client';
import { ATTRIBUTES, LIKING } from '../../api/vocabulary';
import { ChooseFile } from '../../ui/ChooseFile';
import { plural } from '../../ui/numbers';
import { Pick } from '../../ui/Pick';
import { useLook } from '../../ui/useLook';
import classes from './Import.module.css';
import { base64Of, withMeaning, withUnit } from './meanings';
import type { ColumnMeaning, TableRead } from './queries';

const MOST_BYTES = 6_000_000;
const UNIT_WORDS: Record<string, string> = {
  tds_pct: '% TDS',
  brix: '°Brix',
  c: '°C',
  f: '°F',
  ml: 'mL',
  us_fl_oz: 'US fl oz',
  m_ss: 'm:ss',
  '1_5': '1 to 5',
  '1_7': '1 to 7',
  '1_10': '1 to 10',
  '0_10': '0 to 10',
  '0_100': '0 to 100',
};

const ends = (scale: { low: number; high: number }) => `${scale.low} to ${scale.high}`;

/** The scales of this bench go by their ends, like anybody's. */
const unitWord = (unit: string, target: string) => {
  if (unit !== 'own') return UNIT_WORDS[unit] ?? unit;
  if (target === 'score') return `${ends(LIKING)}, liking`;
  return ends(ATTRIBUTES.find((a) => a.code === target) ?? LIKING);
};

/** A table as it was given, and what its columns were said to be. */
export type Given = { data: string; meanings?: ColumnMeaning[]; day_first?: boolean };

/** A table is given, looked at, and looked at again with every change of what its columns are. */
export function useTable<Read extends TableRead>(lookAt: (given: Given) => Promise<Read>) {
  const [given, setGiven] = useState<Given | null>(null);
  const [name, setName] = useState('');
  const [tooLarge, setTooLarge] = useState(false);
  const look = useLook(lookAt);
  const ask = (next: Given) => {
    if (next.data !== given?.data) look.forget();
    setGiven(next);
    look.ask(next);
  };
  const take = async (file: File) => {
    setName(file.name);
    setTooLarge(file.size > MOST_BYTES);
    if (file.size > MOST_BYTES) {
      setGiven(null);
      look.forget();
      return;
    }
    ask({ data: base64Of(new Uint8Array(await file.arrayBuffer())) });
  };
  return { given, name, tooLarge, look, ask, take, again: () => given && look.ask(given) };
}

type TableProps<Read extends TableRead> = {
  table: {
    given: Given | null;
    name: string;
    tooLarge: boolean;
    look: { read: Read | null; error: Error | null };
    ask: (next: Given) => void;
    take: (file: File) => void;
  };
  /** What a row of it is, in a few words. */
  rows: string;
  children: (read: Read) => ReactNode;
};

/** The table chosen, what its columns are, and what follows from it. */
export function TableGiven<Read extends TableRead>({ table, rows, children }: TableProps<Read>) {
  const { given, look, ask } = table;
  const read = look.read;
  return (
    <>
      <p className="quiet">A row of headings, then {rows}: CSV, TSV or XLSX. Nothing is written until you say so.</p>
      <Choose
        onFile={table.take}
        onText={(text) => ask({ data: base64Of(new TextEncoder().encode(text)) })}
        name={table.name}
      />
      {table.tooLarge && (
        <p role="alert" className={classes.fault}>
          This file is larger than 6 MB. Save it as CSV, or split it and import the parts one after another.
        </p>
      )}
      {look.error && (
        <p role="alert" className={classes.fault}>
          {look.error instanceof Refused ? look.error.message : 'The table could not be read.'}
        </p>
      )}
      {read && given && (
        <>
          <Columns read={read} onMeanings={(meanings) => ask({ ...given, meanings })} />
          {read.days_unclear && (
            <div className={classes.days}>
              <span>3/4 is</span>
              <SegmentedControl
                aria-label="Which comes first in a day"
                data={[
                  { value: 'day', label: '3 April' },
                  { value: 'month', label: '4 March' },
                ]}
                value={read.day_first ? 'day' : 'month'}
                onChange={(v) => ask({ ...given, day_first: v === 'day' })}
              />
            </div>
          )}
          {children(read)}
        </>
      )}
    </>
  );
}

type ChooseProps = { name: string; onFile: (file: File) => void; onText: (text: string) => void };

function Choose({ name, onFile, onText }: ChooseProps) {
  const [text, setText] = useState('');
  const [over, setOver] = useState(false);
  return (
    <section
      className={`card ${classes.choose}`}
      aria-label="The table"
      data-over={over || undefined}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        if (e.dataTransfer.files[0]) onFile(e.dataTransfer.files[0]);
      }}
    >
      <ChooseFile accept=".csv,.tsv,.txt,.xlsx,text/csv" onFile={onFile}>
        {(props) => (
          <Button {...props} size="md" variant={name ? 'default' : 'filled'}>
            {name ? 'Choose another file' : 'Choose a file'}
          </Button>
        )}
      </ChooseFile>
      {name ? <b>{name}</b> : <span className="quiet">or drop it here</span>}
      <details className={classes.paste}>
        <summary>Paste it instead</summary>
        <Textarea
          aria-label="Pasted table"
          autosize
          minRows={4}
          maxRows={12}
          value={text}
          onChange={(e) => setText(e.currentTarget.value)}
          styles={{ input: { fontFamily: 'var(--mono)', fontSize: 13 } }}
        />
        <Button mt="xs" variant="default" disabled={!text.trim()} onClick={() => onText(text)}>
          Read it
        </Button>
      </details>
    </section>
  );
}

/** One strip a column: its heading, some of its cells, and what it is taken for. */
function Columns({ read, onMeanings }: { read: TableRead; onMeanings: (meanings: ColumnMeaning[]) => void }) {
  const options = [{ value: '', label: 'skip' }, ...read.targets.map((t) => ({ value: t.code, label: t.label }))];
  return (
    <section aria-labelledby="columns">
      <h2 id="columns">What the columns are</h2>
      {read.known && <p className="quiet small">As a table with these headings was read before.</p>}
      <ul className={classes.columns}>
        {read.columns.map((c, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a column is known by its place; two may have one heading
          <li key={i} className={classes.column} data-out={!c.target || undefined}>
            <b>{c.header || `column ${i + 1}`}</b>
            <span className={`num ${classes.samples}`}>{c.samples.join(' · ') || 'empty'}</span>
            <span className={classes.meaning}>
              <Pick
                aria-label={`${c.header || `column ${i + 1}`} is`}
                data={options}
                value={c.target}
                onPick={(target) => onMeanings(withMeaning(read, i, target))}
              />
              {c.units.length > 1 && (
                <Pick
                  aria-label={`Unit of ${c.header}`}
                  data={c.units.map((u) => ({ value: u, label: unitWord(u, c.target) }))}
                  value={c.unit}
                  onPick={(unit) => onMeanings(withUnit(read, i, unit))}
                />
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

type FaultsProps = { read: TableRead; leaveOut: boolean; onLeaveOut: (leave: boolean) => void };

export function Faults({ read, leaveOut, onLeaveOut }: FaultsProps) {
  if (!read.fault_count) return null;
  return (
    <section className={classes.faults} aria-labelledby="faults">
      <h2 id="faults">
        {plural(read.fault_count, 'error')} in {plural(read.fault_rows, 'row')}
      </h2>
      <ul>
        {read.faults.map((f) => (
          <li key={`${f.row}.${f.header}`}>
            <b className="num">row {f.row}</b>
            {f.header && `, ${f.header}`}
            {f.cell && (
              <>
                : <code>{f.cell}</code>
              </>
            )}
            . {f.reason} <span className={classes.remedy}>{f.remedy}</span>
          </li>
        ))}
      </ul>
      {read.fault_count > read.faults.length && (
        <p className="quiet small">The first {read.faults.length} are shown.</p>
      )}
      <Checkbox
        label={`Skip ${plural(read.fault_rows, 'row')} with errors`}
        checked={leaveOut}
        onChange={(e) => onLeaveOut(e.currentTarget.checked)}
      />
    </section>
  );
}
