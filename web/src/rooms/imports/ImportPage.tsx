import { Button, Checkbox, NativeSelect, SegmentedControl, Textarea } from '@mantine/core';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { Refused } from '../../api/client';
import { ChooseFile } from '../../ui/ChooseFile';
import { Lines } from '../../ui/Lines';
import { clock, dayAndTime, fixed, plural } from '../../ui/numbers';
import { tellDone } from '../../ui/tell';
import { heat } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import classes from './Import.module.css';
import { base64Of, bringsIn, withMeaning, withUnit } from './meanings';
import { bringIn, type ColumnMeaning, lookAt, type TableRead } from './queries';

const MOST_BYTES = 6_000_000;
const UNIT_WORDS: Record<string, string> = {
  tds_pct: '% TDS',
  brix: '°Brix',
  c: '°C',
  f: '°F',
  ml: 'mL',
};

type Asked = { data: string; meanings?: ColumnMeaning[]; day_first?: boolean };

/** An old table of brews: what its columns mean, what each row becomes, and what is wrong with it, before anything is written. */
export function ImportPage() {
  const [asked, setAsked] = useState<Asked | null>(null);
  const [name, setName] = useState('');
  const [tooLarge, setTooLarge] = useState(false);
  const [leaveOut, setLeaveOut] = useState(false);
  const client = useQueryClient();
  const look = useMutation({ mutationFn: lookAt });
  const ask = (next: Asked) => {
    setAsked(next);
    look.mutate(next);
  };
  const write = useSend(() => bringIn({ ...asked!, leave_out_faulty: leaveOut, note: '' }), {
    onDone: (done) => {
      tellDone(`${plural(done.brews, 'brew')} and ${plural(done.readings, 'reading')} are on the bench.`);
      client.invalidateQueries();
      look.mutate(asked!);
    },
  });
  const take = async (file: File) => {
    setName(file.name);
    setTooLarge(file.size > MOST_BYTES);
    if (file.size > MOST_BYTES) {
      setAsked(null);
      look.reset();
      return;
    }
    ask({ data: base64Of(new Uint8Array(await file.arrayBuffer())) });
  };
  const read = look.data;
  return (
    <main className={classes.page}>
      <header>
        <h1>Import a spreadsheet of brews</h1>
        <p className="quiet">
          A row of headings, then a row for each brew: CSV, TSV or XLSX. Nothing is written until you say so.
        </p>
      </header>
      <Choose onFile={take} onText={(text) => ask({ data: base64Of(new TextEncoder().encode(text)) })} name={name} />
      {tooLarge && (
        <p role="alert" className={classes.fault}>
          This file is larger than 6 MB. Save it as CSV, or split it and import the parts one after another.
        </p>
      )}
      {look.error && (
        <p role="alert" className={classes.fault}>
          {look.error instanceof Refused ? look.error.message : 'The table could not be read.'}
        </p>
      )}
      {read && asked && (
        <>
          <Columns read={read} onMeanings={(meanings) => ask({ ...asked, meanings })} />
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
                onChange={(v) => ask({ ...asked, day_first: v === 'day' })}
              />
            </div>
          )}
          <Faults read={read} leaveOut={leaveOut} onLeaveOut={setLeaveOut} />
          <div className={classes.go}>
            <Button
              size="md"
              disabled={!bringsIn(read, leaveOut).can || look.isPending}
              loading={write.isPending}
              onClick={() => write.mutate()}
            >
              {bringsIn(read, leaveOut).text}
            </Button>
            {read.here > 0 && (
              <span className="quiet">
                {plural(read.here, 'row')} {read.here === 1 ? 'is' : 'are'} already on this bench.{' '}
                <Link to="/brews">All brews</Link>
              </span>
            )}
          </div>
          <Becomes read={read} />
        </>
      )}
    </main>
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
              <NativeSelect
                aria-label={`${c.header || `column ${i + 1}`} is`}
                data={options}
                value={c.target}
                onChange={(e) => onMeanings(withMeaning(read, i, e.currentTarget.value))}
              />
              {c.units.length > 1 && (
                <NativeSelect
                  aria-label={`Unit of ${c.header}`}
                  data={c.units.map((u) => ({ value: u, label: UNIT_WORDS[u] ?? u }))}
                  value={c.unit}
                  onChange={(e) => onMeanings(withUnit(read, i, e.currentTarget.value))}
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

function Faults({ read, leaveOut, onLeaveOut }: FaultsProps) {
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

/** The first rows as the brews they will be. */
function Becomes({ read }: { read: TableRead }) {
  if (!read.becomes.length) return null;
  return (
    <section aria-labelledby="becomes">
      <h2 id="becomes">
        {read.becomes.length < read.ready ? `The first ${read.becomes.length} of ${read.ready} brews` : 'The brews'}
      </h2>
      {read.new_kit.length > 0 && <p className="small">New in the kit: {read.new_kit.join(', ')}.</p>}
      <Lines label="Brews as they will be">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">row</th>
              <th scope="col">day</th>
              <th scope="col">coffee</th>
              <th scope="col">kit</th>
              <th scope="col">dose, g</th>
              <th scope="col">water, g</th>
              <th scope="col">beverage, g</th>
              <th scope="col">at</th>
              <th scope="col">time</th>
              <th scope="col">TDS, %</th>
              <th scope="col">liked</th>
            </tr>
          </thead>
          <tbody>
            {read.becomes.map((b) => (
              <tr key={b.row}>
                <th scope="row" className="num">
                  {b.row}
                </th>
                <td>{b.brewed_at ? dayAndTime(b.brewed_at) : 'today'}</td>
                <td>{[b.name, b.coffee].filter(Boolean).join(' · ')}</td>
                <td>{b.kit}</td>
                <td className="num">{fixed(b.dose_g, 1)}</td>
                <td className="num">{fixed(b.brew_water_g, 0)}</td>
                <td className="num">{fixed(b.beverage_g, 0)}</td>
                <td className="num">{b.temperature_c === null ? '–' : heat(b.temperature_c)}</td>
                <td className="num">{clock(b.total_time_s)}</td>
                <td className="num">{b.tds_pct.map((t) => fixed(t)).join(' ') || '–'}</td>
                <td className="num">{b.liking ?? '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
    </section>
  );
}
