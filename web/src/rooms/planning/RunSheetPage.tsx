import { Button, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { DayChart } from '../../charts/day/DayChart';
import { DayField } from '../../ui/DayField';
import { readDay, readTimeOfDay } from '../../ui/day';
import { localRefusal, shownAtField, useForm } from '../../ui/fields';
import { Loaded } from '../../ui/Loading';
import { clock, fixed } from '../../ui/numbers';
import { degrees, heat, heatApart, heatUnit, scaldsAbove } from '../../ui/units';
import { useSend } from '../../ui/useSend';
import { trialQuery } from '../trials/queries';
import { DayForm } from './DayForm';
import { Minutes } from './Minutes';
import { makeSheet, type Plan, planAgain, planQuery, type Sheet, sheetQuery } from './queries';
import classes from './RunSheet.module.css';
import { SetUpTabs } from './SetUpTabs';
import { useNow } from './useNow';

/** The day minute by minute, so that all cups are tasted at one temperature. */
export function RunSheetPage() {
  const { id = '' } = useParams();
  const plan = useQuery(planQuery(id));
  const sheet = useQuery(sheetQuery(id));
  const trial = useQuery(trialQuery(id));
  const [day, setDay] = useState(false);
  return (
    <>
      <SetUpTabs trialId={id} />
      <Loaded query={sheet}>
        {({ sheet: found }) =>
          plan.data && plan.data.setups.length < 2 ? (
            <div className="card">
              <p>Two setups are needed before the day can be timed.</p>
              <Button mt="sm" component={Link} to={`/trials/${id}/set-up`}>
                Set up
              </Button>
            </div>
          ) : (
            <>
              {plan.data && <Drawing trialId={id} plan={plan.data} sheet={found} onDay={() => setDay(true)} />}
              {found && <Sheeted trialId={id} sheet={found} question={trial.data?.question ?? ''} />}
            </>
          )
        }
      </Loaded>
      {day && plan.data && <DayForm trialId={id} plan={plan.data} onClose={() => setDay(false)} />}
    </>
  );
}

type DrawingProps = { trialId: string; plan: Plan; sheet: Sheet | null; onDay: () => void };

/** The moment meant, null for now. Throws a Refused at its field. */
function beginning({ at, day }: { at: string; day: string }): string | null {
  if (!at.trim() && !day.trim()) return null;
  const time = readTimeOfDay(at);
  if (!time) throw localRefusal('at', 'this is not a time of day.', 'Write a time, such as 9:30.');
  const on = readDay(day.trim() || 'today');
  if (!on) throw localRefusal('day', 'this is not a day.', 'Write a day, such as 28 Nov.');
  return new Date(`${on}T${time}`).toISOString();
}

/** When the day begins, what it may use, and the one click that times it. */
function Drawing({ trialId, plan, sheet, onDay }: DrawingProps) {
  const form = useForm({ at: '', day: '' });
  const draw = useSend(async () => makeSheet(trialId, beginning(form.values)), {
    onTrouble: shownAtField(form.setRefused),
  });
  const brews = plan.order.length;
  return (
    <div className={classes.drawing}>
      <TextInput
        w={110}
        label="Work begins at"
        description="Empty: now."
        placeholder="9:30"
        value={form.values.at}
        onChange={(e) => form.set('at', e.currentTarget.value)}
        error={form.refused?.at('at')}
      />
      <DayField
        w={160}
        label="on"
        description="Empty: today."
        value={form.values.day}
        onText={(text) => form.set('day', text)}
        error={form.refused?.at('day')}
      />
      <Button variant="default" onClick={onDay}>
        Hands, kettles, cups
      </Button>
      <Button variant={sheet ? 'default' : 'filled'} loading={draw.isPending} onClick={() => draw.mutate()}>
        {sheet ? 'Draw up a new one' : `Draw up the run sheet for ${brews} brews`}
      </Button>
      {draw.isPending && (
        <span className="quiet" role="status">
          Timing {brews} brews, up to three seconds…
        </span>
      )}
      {form.refused && (
        <p role="alert" className={classes.refused}>
          {form.refused.message}
        </p>
      )}
    </div>
  );
}

function Sheeted({ trialId, sheet, question }: { trialId: string; sheet: Sheet; question: string }) {
  const now_s = useNow(sheet.begins_at);
  const again = useSend(() => planAgain(sheet.id, sheet.rev));
  const temps = sheet.cups.map((c) => c.temperature_c);
  const running = now_s > -60 && now_s < sheet.tasting_s + 600;
  return (
    <article className={classes.sheet} aria-label="Run sheet">
      <header className={classes.head}>
        <div>
          <p className="small quiet">
            {question} · work begins {dayTime(sheet.begins_at)}
          </p>
          <h1>{sheet.headline}</h1>
          <p className="quiet">
            Tasting begins at <b className="num">{clock(sheet.tasting_s)}</b>,{' '}
            {dayTime(sheet.begins_at, sheet.tasting_s)}, with cups at{' '}
            <b className="num">
              {range(temps)} {heatUnit()}
            </b>{' '}
            in a room of {heat(sheet.ambient_c, 0)}. Taste below {scaldsAbove()}.
          </p>
        </div>
        <div className={classes.tools}>
          {running && (
            <Button loading={again.isPending} onClick={() => again.mutate()}>
              Plan again from now
            </Button>
          )}
          <Button
            variant="default"
            component="a"
            href={`/api/v1/trials/${trialId}/run-sheet.ics`}
            download="run-sheet.ics"
          >
            Calendar file
          </Button>
          <Button variant={running ? 'default' : 'filled'} onClick={() => window.print()}>
            Print
          </Button>
        </div>
      </header>
      {sheet.why && (
        <div className={classes.why}>
          <p>
            <b>More than the {heatApart(sheet.wanted_spread_c, 0)} wanted.</b> {sheet.why}
          </p>
          {sheet.remedies.length > 0 && (
            <ul>
              {sheet.remedies.map((r) => (
                <li key={r.code}>
                  {r.text}: cups <b className="num">{heatApart(r.spread_c, 1)}</b> apart.
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls sideways on a phone, so the keyboard must reach it */}
      <section className={`card ${classes.chart}`} aria-label="Lanes and cooling" tabIndex={0}>
        <DayChart
          blocks={sheet.blocks}
          cups={sheet.cups}
          tasting_s={sheet.tasting_s}
          low_c={sheet.low_c}
          high_c={sheet.high_c}
          now_s={running ? now_s : undefined}
        />
      </section>
      {sheet.beforehand.length > 0 && (
        <section aria-labelledby="beforehand">
          <h2 id="beforehand">Beforehand</h2>
          <ul>
            {sheet.beforehand.map((b) => (
              <li key={b.text}>
                {b.text}, about <span className="num">{fixed(b.minutes, 0)} min</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <Minutes trialId={trialId} sheet={sheet} running={running} />
      {sheet.notes.map((note) => (
        <p key={note} className="quiet small">
          {note}
        </p>
      ))}
    </article>
  );
}

function dayTime(iso: string, plus_s = 0): string {
  return new Date(Date.parse(iso) + 1000 * plus_s).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
}

function range(temps: number[]): string {
  const [low, high] = [degrees(Math.min(...temps), 0), degrees(Math.max(...temps), 0)];
  return low === high ? low : `${low}–${high}`;
}
