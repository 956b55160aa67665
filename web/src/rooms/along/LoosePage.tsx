import { Button, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { DurationField, NumberField, numberOf, secondsOf, shownAtField, useTyped } from '../../ui/fields';
import { Loaded } from '../../ui/Loading';
import { clock, dayAndTime, fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { EditRun } from '../brewing/EditRun';
import { logLooseRun, takeIn } from '../brewing/queries';
import { readingsOf } from '../brewing/runTexts';
import { seenSaid } from '../brewing/seen';
import { type LooseRun, looseRunsQuery, type RunMeasured } from '../measuring/queries';
import { ReadingCard } from '../measuring/ReadingCard';
import { trialsQuery } from '../rails/queries';
import { type LastBrewed, lastBrewedQuery, recipesQuery } from '../recipes/queries';
import { RecipePicker } from '../recipes/RecipePicker';
import { setUpQuery } from '../trials/queries';
import { EMPTY, patchOf, VariableField } from '../trials/VariableField';
import { newKitOf } from '../trials/variables';
import { GoOn, SimulatedChoice, useSimulated } from './BrewAlong';
import classes from './Loose.module.css';
import { liveBrewsQuery, prepareLoose } from './queries';

const NAMED = ['coffee', 'grinder', 'grind_setting', 'brewer', 'filter', 'water'] as const;
const AMOUNTS = ['dose_g', 'brew_water_g', 'temperature_c'] as const;

/** Brew any recipe without a trial: the daily cup, or a dial-in before there is a question. */
export function LoosePage() {
  const loose = useQuery(looseRunsQuery);
  const live = useQuery(liveBrewsQuery(null));
  return (
    <main className={classes.page}>
      <header>
        <h1>Brew without a trial</h1>
        <p className="quiet">
          The daily cup, or a dial-in. It is measured like any brew and stands in the chart room; it proves nothing
          about a comparison.
        </p>
      </header>
      <GoOn brews={(live.data?.brews ?? []).filter((b) => b.trial_id === null)} />
      <div className={classes.columns}>
        <NewLoose />
        <Loaded query={loose}>
          {(l) => (
            <section className={classes.right} aria-label="Loose brews">
              {l.runs.some(unread) && <ReadingCard runs={l.runs.filter(unread)} called={calledLoose} />}
              <h2>Brewed lately</h2>
              {l.runs.length === 0 && <p className="quiet">No loose brew yet.</p>}
              {l.runs.map((run) => (
                <LooseCard key={run.id} run={run} />
              ))}
            </section>
          )}
        </Loaded>
      </div>
    </main>
  );
}

const unread = (run: { readings: unknown[] }) => run.readings.length < 3;
const calledLoose = (run: RunMeasured) => `${(run as LooseRun).name}, ${dayAndTime(run.brewed_at)}`;

/** What the recipe was brewed with last is filled in once it is chosen, where nothing was typed yet. */
function useLastBrewed(versionId: string, fill: (last: LastBrewed) => void) {
  const { data: recipes } = useQuery(recipesQuery);
  const recipe = recipes?.recipes.find((r) => r.version_id === versionId || r.older.some((v) => v.id === versionId));
  const { data: last } = useQuery(lastBrewedQuery(recipe?.id ?? ''));
  const filled = useRef('');
  useEffect(() => {
    if (!last || !recipe || filled.current === recipe.id) return;
    filled.current = recipe.id;
    fill(last);
  });
}

function NewLoose() {
  const [params] = useSearchParams();
  const [recipe, setRecipe] = useState(params.get('recipe') ?? '');
  const form = useTyped({ ...EMPTY, name: '', beverage_g: '', total_time_s: '', tds: '', note: '' });
  useLastBrewed(recipe, (last) =>
    form.reset((now) => ({ ...now, ...Object.fromEntries(Object.entries(last).filter(([f]) => !now[f as 'coffee'])) })),
  );
  const simulated = useSimulated();
  const navigate = useNavigate();
  const variables = () =>
    patchOf(
      form.texts,
      [...NAMED, ...AMOUNTS].filter((f) => form.texts[f].trim() !== ''),
    );
  const along = useSend(
    async (instrument: 'none' | 'simulated') =>
      prepareLoose({
        recipe_version_id: recipe,
        name: form.texts.name,
        variables: variables(),
        new_kit: newKitOf(form.texts.new_kit),
        ...simulated.asked(instrument),
      }),
    { onDone: (brew) => navigate(`/along/${brew.id}`), onTrouble: shownAtField(form.setRefused) },
  );
  const log = useSend(
    async () =>
      logLooseRun({
        recipe_version_id: recipe || null,
        name: form.texts.name,
        variables: variables(),
        new_kit: newKitOf(form.texts.new_kit),
        beverage_g: numberOf('beverage_g', form.texts.beverage_g),
        total_time_s: await secondsOf(form.texts.total_time_s),
        tds_readings_pct: readingsOf(form.texts.tds),
        note: form.texts.note,
      }),
    {
      onDone: () => {
        tellDone('The brew is logged.');
        form.reset({ ...form.texts, beverage_g: '', total_time_s: '', tds: '', note: '' });
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  return (
    <form
      className={`card ${classes.form}`}
      onSubmit={(e) => {
        e.preventDefault();
        log.mutate();
      }}
    >
      <h2>What is brewed</h2>
      <div className={classes.fields}>
        <div className={classes.wide}>
          <RecipePicker label="Recipe" value={recipe} onChange={setRecipe} error={form.refused?.at('version_id')} />
        </div>
        <TextInput
          className={classes.wide}
          label="Called"
          placeholder="morning cup"
          maxLength={80}
          value={form.texts.name}
          onChange={(e) => form.set('name', e.currentTarget.value)}
          error={form.refused?.at('name')}
        />
        {[...NAMED, ...(recipe ? [] : AMOUNTS)].map((field) => (
          <VariableField key={field} field={field} texts={form.texts} set={form.set} refused={form.refused} />
        ))}
      </div>
      <div className={classes.go}>
        <Button
          size="md"
          disabled={!recipe}
          loading={along.isPending && along.variables === 'none'}
          onClick={() => along.mutate('none')}
        >
          Brew along
        </Button>
        <SimulatedChoice
          simulated={simulated}
          disabled={!recipe}
          loading={along.isPending && along.variables === 'simulated'}
          onGo={() => along.mutate('simulated')}
        />
      </div>
      <h2>Or log what was brewed</h2>
      <div className={classes.fields}>
        <NumberField
          label="Beverage mass"
          unit="g"
          value={form.texts.beverage_g}
          onText={(t) => form.set('beverage_g', t)}
          error={form.refused?.at('beverage_g')}
        />
        <DurationField
          label="Total time"
          value={form.texts.total_time_s}
          onText={(t) => form.set('total_time_s', t)}
          error={form.refused?.at('total_time_s')}
        />
        <TextInput
          label="TDS readings, %"
          placeholder="1.41 1.43 1.42"
          autoComplete="off"
          value={form.texts.tds}
          onChange={(e) => form.set('tds', e.currentTarget.value)}
          error={form.refused?.at('tds_readings_pct')}
          styles={{ input: { fontFamily: 'var(--mono)', fontWeight: 500 } }}
        />
        <TextInput
          label="Note"
          maxLength={500}
          value={form.texts.note}
          onChange={(e) => form.set('note', e.currentTarget.value)}
          error={form.refused?.at('note')}
        />
      </div>
      <Button type="submit" variant="light" loading={log.isPending}>
        Log a loose brew
      </Button>
    </form>
  );
}

function LooseCard({ run }: { run: LooseRun }) {
  const [editing, setEditing] = useState(false);
  const seen = seenSaid(run.observed);
  return (
    <article className={`card ${classes.brew}`}>
      <Penny stamp={run.letter} size={34} />
      <div className={classes.what}>
        <h3>{run.name}</h3>
        <p className="quiet small">
          {[run.coffee, run.brewer, dayAndTime(run.brewed_at), run.total_time_s !== null && clock(run.total_time_s)]
            .filter(Boolean)
            .join(' · ')}
        </p>
        {seen && <p className="quiet small">{seen}</p>}
        {run.off_plan.length > 0 && <p className={classes.off}>Off plan: {run.off_plan.join(', ')}</p>}
      </div>
      <p className={`num ${classes.numbers}`}>
        {run.tds ? `${fixed(run.tds.value)} % TDS` : 'not read'}
        <br />
        {run.extraction_yield
          ? `${fixed(run.extraction_yield.value, 1)} ± ${fixed(run.extraction_yield.half_width, 1)} %`
          : '–'}
      </p>
      <div className={classes.actions}>
        <Button size="compact-sm" variant="default" onClick={() => setEditing(true)}>
          Correct
        </Button>
        <TakeIn run={run} />
      </div>
      {editing && <EditRun run={run} onClose={() => setEditing(false)} />}
    </article>
  );
}

/** Into a trial as a dial-in brew of one of its setups. */
function TakeIn({ run }: { run: LooseRun }) {
  const [trial, setTrial] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const { data: trials } = useQuery({ ...trialsQuery, enabled: open });
  const { data: setUp } = useQuery({ ...setUpQuery(trial ?? ''), enabled: trial !== null });
  const take = useSend((setup: string) => takeIn(run.id, run.rev, setup), {
    onDone: () => tellDone('It is a dial-in brew of that setup now; it is never evidence.'),
  });
  if (!open) {
    return (
      <Button size="compact-sm" variant="subtle" onClick={() => setOpen(true)}>
        Take into a trial
      </Button>
    );
  }
  return (
    <div className={classes.takeIn}>
      <Select
        size="xs"
        aria-label="Trial"
        placeholder="trial"
        value={trial}
        onChange={setTrial}
        data={(trials ?? []).map((t) => ({ value: t.id, label: `${t.number}: ${t.question}` }))}
      />
      {setUp && (
        <Select
          size="xs"
          aria-label="Setup"
          placeholder="as a dial-in of"
          onChange={(v) => v && take.mutate(v)}
          data={setUp.setups.map((s) => ({ value: s.id, label: `${s.letter}: ${s.name}` }))}
        />
      )}
    </div>
  );
}
