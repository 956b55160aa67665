import { Button, SegmentedControl, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Schemas } from '../../api/client';
import { FACTOR_ORDER, FACTORS } from '../../api/words';
import { dayInWords } from '../../ui/day';
import { NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { Lines } from '../../ui/Lines';
import { fixed, plural } from '../../ui/numbers';
import { Pick } from '../../ui/Pick';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { type Factor, guessQuery } from '../trials/queries';
import classes from './Import.module.css';
import { scoresIn } from './meanings';
import { bringInScores, lookAtScores, type ScoreTableRead } from './queries';
import { Faults, type Given, TableGiven, useTable } from './TableParts';

type Tasted = Schemas['ScoreTableWrite']['tasted'];
const AFTER_MS = 400;

/** A panel's scores from elsewhere: the flights they become, and what the table itself does not say of them. */
export function ScoreTable() {
  const form = useForm({ question: '', factor_other: '', dose_g: '', brew_water_g: '' });
  const [told, setFactor] = useState<Factor | null>(null);
  const [tasted, setTasted] = useState<Tasted | null>(null);
  const [leaveOut, setLeaveOut] = useState(false);
  const [settled] = useDebouncedValue(form.values, AFTER_MS);
  const guess = useQuery(guessQuery(settled.question));
  const factor = told ?? (form.values.question.trim() && guess.data?.factor) ?? 'other';
  const said = (texts: typeof settled) => ({
    question: texts.question.trim(),
    factor: (factor || 'other') as Factor,
    factor_other: texts.factor_other,
    dose_g: amount(texts.dose_g),
    brew_water_g: amount(texts.brew_water_g),
  });
  const table = useTable((given: Given) => lookAtScores({ ...given, ...said(settled) }));
  // biome-ignore lint/correctness/useExhaustiveDependencies: looked at again when what is said of it has settled, not when the table itself changes
  useEffect(() => {
    table.again();
  }, [settled, factor]);
  const navigate = useNavigate();
  const client = useQueryClient();
  const write = useSend(
    () =>
      bringInScores({
        ...table.given!,
        ...said(form.values),
        dose_g: numberOf('dose_g', form.values.dose_g),
        brew_water_g: numberOf('brew_water_g', form.values.brew_water_g),
        tasted: tasted!,
        leave_out_faulty: leaveOut,
      }),
    {
      onDone: (done) => {
        tellDone(`${plural(done.scores, 'score')} in ${plural(done.flights, 'flight')} are on the bench.`);
        client.invalidateQueries();
        navigate(`/trials/${done.trial_id}/verdict`);
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  return (
    <TableGiven
      table={table}
      rows="a row for each score, for each cup, or for each taster with a column for each setup"
    >
      {(read) => {
        const go = scoresIn(read, leaveOut, { question: form.values.question, tasted });
        return (
          <>
            <section className={`card ${classes.said}`} aria-labelledby="said">
              <h2 id="said">What the table does not say</h2>
              <TextInput
                label="The question"
                placeholder="Which filter: white weave or grey felt?"
                maxLength={200}
                value={form.values.question}
                onChange={(e) => form.set('question', e.currentTarget.value)}
                error={form.refused?.at('question')}
              />
              <Pick
                label="What differs between the setups"
                data={FACTOR_ORDER.map((code) => ({ value: code, label: FACTORS[code] }))}
                value={factor || 'other'}
                onPick={(code) => setFactor(code as Factor)}
                error={form.refused?.at('factor')}
              />
              {factor === 'other' && (
                <TextInput
                  label="In a word or two, what?"
                  placeholder="agitation"
                  maxLength={80}
                  value={form.values.factor_other}
                  onChange={(e) => form.set('factor_other', e.currentTarget.value)}
                  error={form.refused?.at('factor_other')}
                />
              )}
              <div className={classes.tasted}>
                <span id="tasted" className={classes.label}>
                  How it was tasted
                </span>
                <SegmentedControl
                  aria-labelledby="tasted"
                  data={[
                    { value: 'blind', label: 'Blind' },
                    { value: 'labelled', label: 'Labels in sight' },
                  ]}
                  value={tasted ?? ''}
                  onChange={(v) => setTasted(v as Tasted)}
                />
                <span className="quiet small">
                  {tasted === 'labelled'
                    ? 'Kept apart from blind scores.'
                    : 'By your word: the verdict will say that it was not seen here.'}
                </span>
              </div>
              {(read.amounts_needed.length > 0 || form.values.dose_g || form.values.brew_water_g) && (
                <div className={classes.amounts}>
                  <NumberField
                    label="Dose of each brew"
                    unit="g"
                    value={form.values.dose_g}
                    onText={(text) => form.set('dose_g', text)}
                    error={form.refused?.at('dose_g')}
                  />
                  <NumberField
                    label="Water of each brew"
                    unit="g"
                    value={form.values.brew_water_g}
                    onText={(text) => form.set('brew_water_g', text)}
                    error={form.refused?.at('brew_water_g')}
                  />
                </div>
              )}
            </section>
            <Faults read={read} leaveOut={leaveOut} onLeaveOut={setLeaveOut} />
            <div className={classes.go}>
              <Button
                size="md"
                disabled={!go.can || !table.look.isSettled}
                loading={write.isPending}
                onClick={() => write.mutate()}
              >
                {go.text}
              </Button>
              {read.here > 0 && (
                <span className="quiet">
                  {plural(read.here, 'flight')} {read.here === 1 ? 'is' : 'are'} already on this bench
                  {read.adds_to && read.ready ? `, in trial ${read.adds_to}; the rest is added there` : ''}.{' '}
                  <Link to="/trials">All trials</Link>
                </span>
              )}
            </div>
            <Flights read={read} />
          </>
        );
      }}
    </TableGiven>
  );
}

/** An amount while it is typed: what is no number yet is none. */
function amount(text: string): number | null {
  try {
    return numberOf('', text);
  } catch {
    return null;
  }
}

/** The setups that are compared, and the flights they were tasted in. */
function Flights({ read }: { read: ScoreTableRead }) {
  if (!read.setups.length) return null;
  return (
    <section aria-labelledby="becomes" className={classes.becomes}>
      <h2 id="becomes">What it becomes</h2>
      {read.new_people.length > 0 && <p className="small">New tasters: {read.new_people.join(', ')}.</p>}
      {read.new_kit.length > 0 && <p className="small">New in the kit: {read.new_kit.join(', ')}.</p>}
      <Lines label="Setups as they will be">
        <table className={classes.table}>
          <thead>
            <tr>
              <th scope="col">setup</th>
              <th scope="col">called</th>
              <th scope="col">dose, g</th>
              <th scope="col">water, g</th>
              <th scope="col">brews</th>
              <th scope="col">scores</th>
            </tr>
          </thead>
          <tbody>
            {read.setups.map((s) => (
              <tr key={s.letter}>
                <th scope="row">{s.letter}</th>
                <td>{s.name}</td>
                <td className="num">{fixed(s.dose_g, 1)}</td>
                <td className="num">{fixed(s.brew_water_g, 0)}</td>
                <td className="num">{s.brews}</td>
                <td className="num">{s.scores}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Lines>
      <ul className={classes.flights} aria-label="Flights">
        {read.flights.map((f) => (
          <li key={`${f.name}.${f.day}`}>
            <b>
              {[f.name && `Flight ${f.name}`, f.day && dayInWords(f.day)].filter(Boolean).join(', ') || 'One flight'}
            </b>
            : {plural(f.tasters, 'taster')}, {plural(f.cups, 'cup')} of {plural(f.setups, 'setup')},{' '}
            {plural(f.scores, 'score')}
          </li>
        ))}
      </ul>
    </section>
  );
}
