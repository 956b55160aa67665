import { Button, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { Refused } from '../../api/client';
import { shownAtField, useForm } from '../../ui/fields';
import { Loaded } from '../../ui/Loading';
import { clock, dayAndTime, fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { Restored } from '../../ui/Restored';
import { tellDone } from '../../ui/tell';
import { useSend } from '../../ui/useSend';
import { BrewForm } from '../brewing/BrewForm';
import { isPressed, yieldBasisOf } from '../brewing/brewers';
import { bodyOf, brewTexts, type KnownBrew, pourEnd, readingsOf } from '../brewing/brewTexts';
import { EditRun } from '../brewing/EditRun';
import type { PourShown } from '../brewing/pourTexts';
import { type LooseRunBody, logLooseRun, takeIn } from '../brewing/queries';
import { NOTHING_SEEN, seenSaid } from '../brewing/seen';
import { useBrewForm } from '../brewing/useBrewForm';
import { HowWasIt } from '../liking/HowWasIt';
import { LikeBrew } from '../liking/LikeBrew';
import { type LooseRun, looseRunsQuery, type RunMeasured } from '../measuring/queries';
import { ReadingCard } from '../measuring/ReadingCard';
import { Photos } from '../photos/Photos';
import { runPhotosQuery } from '../photos/queries';
import { trialsQuery } from '../progress/queries';
import {
  type LastBrewed,
  lastBrewedQuery,
  type Recipe as RecipeShown,
  recipeQuery,
  recipesQuery,
} from '../recipes/queries';
import { RecipePicker } from '../recipes/RecipePicker';
import { setUpQuery } from '../trials/queries';
import { EMPTY, patchOf } from '../trials/texts';
import { VariableField } from '../trials/VariableField';
import { newKitOf } from '../trials/variables';
import { GoOn, SimulatedChoice, useSimulated } from './BrewAlong';
import classes from './Loose.module.css';
import { type LiveBrew, liveBrewsQuery, prepareLoose } from './queries';

const NAMED = ['coffee', 'grinder', 'grind_setting', 'brewer', 'filter', 'water'] as const;

/** Brew any recipe without a trial: the daily cup, or a dial-in before there is a question. */
export function LoosePage() {
  const loose = useQuery(looseRunsQuery);
  const live = useQuery(liveBrewsQuery(null));
  return (
    <main className={classes.page}>
      <header>
        <h1>Brew without a trial</h1>
        <p className="quiet">
          The daily cup, or a dial-in. It is measured like any brew and stands in the charts; it proves nothing about a
          comparison.
        </p>
      </header>
      <GoOn brews={(live.data?.brews ?? []).filter((b) => b.trial_id === null)} />
      <div className={classes.columns}>
        <NewLoose />
        <Loaded query={loose}>
          {(l) => (
            <section className={classes.right} aria-label="Loose brews">
              {l.runs.some(unread) && <ReadingCard runs={l.runs.filter(unread)} called={calledLoose} />}
              <HowWasIt heading="How was it, this week?" />
              <div className={classes.head}>
                <h2>Brewed lately</h2>
                <Link to="/brews">All brews</Link>
              </div>
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

/** The recipe that is chosen, in the version that is chosen. */
function useRecipe(versionId: string) {
  const { data: recipes } = useQuery(recipesQuery);
  const listed = recipes?.recipes.find((r) => r.version_id === versionId || r.older.some((v) => v.id === versionId));
  const number = listed?.older.find((v) => v.id === versionId)?.number;
  return useQuery({ ...recipeQuery(listed?.id ?? '', number), enabled: listed !== undefined });
}

function NewLoose() {
  const [params] = useSearchParams();
  const form = useForm({ ...EMPTY, name: '', recipe: '' }, 'loose-what');
  const { recipe } = form.values;
  const chooseRecipe = (next: string) => {
    const isAnother = recipe !== '' && recipe !== next;
    form.set('recipe', next);
    if (isAnother && form.values.name) form.fill({ name: '' });
  };
  const linked = useRef(params.get('recipe'));
  useEffect(() => {
    if (linked.current) chooseRecipe(linked.current);
    linked.current = null;
  });
  const { data: known } = useRecipe(recipe);
  useLastBrewed(recipe, (last) => {
    const brewedWith = Object.fromEntries(Object.entries(last).filter(([, name]) => name !== ''));
    const isNameAsked = form.contested.some(({ field }) => field === 'name'); // a fill replaces what was asked before
    form.fill(isNameAsked ? { name: '', ...brewedWith } : brewedWith);
  });
  const simulated = useSimulated();
  const navigate = useNavigate();
  const variables = () =>
    patchOf(
      form.values,
      NAMED.filter((f) => form.values[f].trim() !== ''),
    );
  const along = useSend(
    async (instrument: LiveBrew['instrument']) => {
      form.check();
      return prepareLoose({
        recipe_version_id: recipe,
        name: form.values.name,
        variables: variables(),
        new_kit: newKitOf(form.values.new_kit),
        ...simulated.asked(instrument),
      });
    },
    {
      onDone: (brew) => {
        form.forget();
        navigate(`/live-brews/${brew.id}`);
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  return (
    <div className={`card ${classes.form}`}>
      <h2>What is brewed</h2>
      <Restored form={form} labels={CALLED} from="recipe" />
      <div className={classes.fields}>
        <div className={classes.wide}>
          <RecipePicker label="Recipe" value={recipe} onChange={chooseRecipe} error={form.refused?.at('version_id')} />
        </div>
        <TextInput
          className={classes.wide}
          label="Called"
          placeholder="morning cup"
          maxLength={80}
          value={form.values.name}
          onChange={(e) => form.set('name', e.currentTarget.value)}
          error={form.refused?.at('name')}
        />
        {NAMED.map((field) => (
          <VariableField key={field} field={field} texts={form.values} set={form.set} refused={form.refused} />
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
        <Button
          variant="subtle"
          disabled={!recipe}
          loading={along.isPending && along.variables === 'wire'}
          onClick={() => along.mutate('wire')}
        >
          with a connected scale
        </Button>
      </div>
      <LogLoose
        key={`${known?.id}.${known?.version}`}
        planned={plannedOf(known)}
        pours={known?.checked.pours ?? []}
        pressed={isPressed(known?.document.brewer_type ?? null)}
        yield_basis={yieldBasisOf(known?.document.brewer_type ?? null)}
        what={() => {
          form.check();
          return {
            recipe_version_id: recipe || null,
            name: form.values.name,
            variables: variables(),
            new_kit: newKitOf(form.values.new_kit),
          };
        }}
        onRefused={form.setRefused}
        onLogged={() => form.set('name', '')}
      />
    </div>
  );
}

const CALLED = { name: 'Called' };
const BREWED = { dose_g: 'Dose', brew_water_g: 'Brew water', temperature_c: 'Temperature' };

/** What a recipe says of a brew beforehand; the water only where no pours are weighed, for theirs would count twice. */
const plannedOf = (known: RecipeShown | undefined): KnownBrew =>
  known
    ? {
        dose_g: known.document.dose_g,
        temperature_c: known.document.temperature_c,
        ...(known.checked.pours.length ? {} : { brew_water_g: known.document.brew_water_g }),
      }
    : {};

type LogLooseProps = {
  planned: KnownBrew;
  pours: PourShown[];
  pressed: boolean;
  yield_basis: 'in_cup' | 'full_liquor';
  what: () => Pick<LooseRunBody, 'recipe_version_id' | 'name' | 'variables' | 'new_kit'>;
  onRefused: (refused: Refused | null) => void;
  onLogged: () => void;
};

/** A brew that was made without the guide, with everything a guided one can say. */
function LogLoose({ planned, pours, pressed, yield_basis, what, onRefused, onLogged }: LogLooseProps) {
  const form = useBrewForm('loose', {
    texts: brewTexts(planned, NOTHING_SEEN, pours),
    seen: NOTHING_SEEN,
    concentrate: false,
  });
  const { texts, seen, concentrate } = form;
  const log = useSend(
    async () => {
      const asked = what();
      form.check();
      const body = await bodyOf(texts, seen, pours, concentrate);
      const { dose_g, brew_water_g, temperature_c } = body;
      // Without a recipe what was weighed is what the setup is made of.
      const weighed = asked.recipe_version_id ? {} : given({ dose_g, brew_water_g, temperature_c });
      return logLooseRun({
        ...asked,
        variables: { ...asked.variables, ...weighed },
        ...body,
        ...(await pourEnd(texts, pours)),
        bypass_g: texts.bypass_g.trim() ? body.bypass_g : null,
        tds_readings_pct: readingsOf(texts.tds_readings_pct),
      });
    },
    {
      onDone: () => {
        tellDone('The brew is logged.');
        form.startAfresh();
        onLogged();
      },
      onTrouble: (error) => {
        onRefused(error instanceof Refused ? error : null);
        return shownAtField(form.setRefused)(error);
      },
    },
  );
  return (
    <form
      className={classes.log}
      onSubmit={(e) => {
        e.preventDefault();
        log.mutate();
      }}
    >
      <h2>Or log what was brewed</h2>
      <Restored form={form} labels={BREWED} from="recipe" />
      <BrewForm
        texts={texts}
        set={form.set}
        refused={form.refused}
        seen={seen}
        onSeen={form.onSeen}
        concentrate={concentrate}
        onConcentrate={form.onConcentrate}
        pours={pours}
        yield_basis={yield_basis}
        pressed={pressed}
        folded
      />
      <Button type="submit" variant="light" loading={log.isPending}>
        Log a loose brew
      </Button>
    </form>
  );
}

/** What was said, without what was not. */
const given = (values: Record<string, number | null>) =>
  Object.fromEntries(Object.entries(values).filter(([, v]) => v !== null));

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
        <LoosePhotos run={run} />
        {run.liking !== null && <span className="quiet small">liked {run.liking} of 9</span>}
        <LikeBrew runId={run.id} called={run.name} />
      </div>
      {editing && <EditRun run={run} yield_basis={run.yield_basis} onClose={() => setEditing(false)} />}
    </article>
  );
}

function LoosePhotos({ run }: { run: LooseRun }) {
  const { data: photos = [] } = useQuery(runPhotosQuery(run.id));
  return <Photos runId={run.id} label={run.name} photos={photos} />;
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
