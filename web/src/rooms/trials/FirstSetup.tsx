import { Button, UnstyledButton } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Refused } from '../../api/client';
import { FACTOR_KINDS, MOST_SETUPS } from '../../api/vocabulary';
import { atADesk } from '../../ui/desk';
import { NumberField, shownAtField, useForm } from '../../ui/fields';
import { Penny } from '../../ui/Penny';
import { Restored } from '../../ui/Restored';
import { useSend } from '../../ui/useSend';
import { recipesQuery } from '../recipes/queries';
import { RecipePicker } from '../recipes/RecipePicker';
import {
  bodyOfFirst,
  combinations,
  EMPTY_FIRST,
  type FirstTexts,
  heldTexts,
  kindOf,
  MOST_AT_FIRST,
  ownField,
  ownOf,
  setupsWith,
  shownOf,
  stampOf,
  type Tested,
} from './firstTexts';
import { addFirstSetups, guessQuery, heldBeforeQuery, type Trial, type VariablesPatch } from './queries';
import classes from './SetUp.module.css';
import { EMPTY, type Texts } from './texts';
import { VariableField } from './VariableField';
import { VARIABLES, variableOf } from './variables';

/** The first setups: what differs, said once for each (of several factors, once for each level); dose and water; the rest the same in all. */
export function FirstSetup({ trial, otherLabel }: { trial: Trial; otherLabel: string }) {
  const guess = useQuery(guessQuery(trial.question));
  if (guess.isPending) return null; // what the question names stands in the fields from the start
  const named = guess.data?.factor === trial.factor ? guess.data.options : [];
  return <FirstForm trial={trial} otherLabel={otherLabel} named={named} />;
}

function FirstForm({ trial, otherLabel, named }: { trial: Trial; otherLabel: string; named: string[] }) {
  const form = useForm<FirstTexts>(
    {
      ...EMPTY_FIRST,
      [shownOf(0)]: String(Math.min(MOST_AT_FIRST, Math.max(2, named.length))),
      ...Object.fromEntries(named.slice(0, MOST_AT_FIRST).map((text, i) => [ownOf(0, i), text])),
    },
    `first.${trial.id}`,
  );
  const { values: texts, set, refused } = form;
  const recipes = useQuery(recipesQuery);
  const before = useQuery(heldBeforeQuery(trial.id));
  const factors = [trial.factor, ...trial.further_factors];
  const tested = factors.map((code) => ownField(FACTOR_KINDS.find((f) => f.code === code)!.tests));
  const byRatio = tested.includes('brew_ratio');
  const setups = combinations(texts, tested.length);
  const send = async () => {
    form.check();
    return addFirstSetups(trial.id, bodyOfFirst(texts, tested));
  };
  const save = useSend(send, {
    onDone: form.forget,
    onTrouble: shownAtField(form.setRefused),
  });
  const labels = tested.map((t) => (t === 'brew_ratio' ? 'Ratio' : t === 'other' ? otherLabel : variableOf(t)!.label));
  const shared = { texts: texts as Texts, set: set as (f: keyof Texts, t: string) => void, refused };
  const amounts: (keyof VariablesPatch)[] = byRatio ? ['dose_g'] : ['dose_g', 'brew_water_g'];
  const elsewhere: string[] = [...tested, ...amounts, 'other'];
  const folded = VARIABLES.filter((v) => !elsewhere.includes(v.field));
  const unfold = folded.some((v) => texts[v.field].trim() || refused?.at(`variables.${v.field}`));
  return (
    <form
      className={`card ${classes.first}`}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <div className={classes.firstHead}>
        <div>
          <h1>What is compared?</h1>
          <p className="quiet">
            {tested.length > 1 && 'Every combination becomes a setup. '}
            Dose and {byRatio ? 'the ratios' : 'brew water'} are enough. Everything else counts as the same in all.
          </p>
        </div>
        {before.data?.before && (
          <Button
            variant="default"
            onClick={() => form.setValues({ ...texts, ...heldTexts(before.data.before!.variables) })}
          >
            Start from what trial {before.data.before.number} held
          </Button>
        )}
      </div>
      <Restored form={form} />
      {tested.map((_, factor) => (
        <OwnRow key={factors[factor]} factor={factor} {...{ tested, labels, texts, set, refused }} />
      ))}
      {tested.length > 1 && setups.length > 1 && (
        <ul className={classes.combined} aria-label="Every combination">
          {setups.slice(0, MOST_SETUPS).map((levels, i) => (
            <li key={stampOf(i)}>
              <Penny stamp={stampOf(i)} size={32} label={`Setup ${stampOf(i)}`} />
              {levels
                .map((level, k) => texts[ownOf(k, level)]?.trim())
                .filter(Boolean)
                .join(' · ')}
            </li>
          ))}
        </ul>
      )}
      <div className={classes.firstFields}>
        {amounts.map((field) => (
          <VariableField key={field} field={field} {...shared} autoFocus={field === 'dose_g' && named.length > 0} />
        ))}
        {!tested.includes('brewer') && <VariableField field="brewer_type" {...shared} />}
        {(recipes.data?.recipes.length ?? 0) > 0 && (
          <RecipePicker
            label="Recipe"
            value={texts.recipe}
            onChange={(v) => set('recipe', v)}
            error={refused?.at('recipe_version_id') ?? refused?.at('version_id')}
          />
        )}
      </div>
      <details className={classes.same} open={unfold || undefined}>
        <summary>
          The same in all:{' '}
          {folded
            .slice(0, 4)
            .map((v) => v.label.toLowerCase())
            .join(', ')}{' '}
          and more
        </summary>
        <div className={classes.firstFields}>
          {folded.map((v) => (
            <VariableField key={v.field} field={v.field} {...shared} />
          ))}
        </div>
      </details>
      <div>
        <Button type="submit" size="md" loading={save.isPending} disabled={setups.length > MOST_SETUPS}>
          {addSaid(setups.length)}
        </Button>
        {setups.length > MOST_SETUPS && (
          <p role="alert">
            These are {setups.length} combinations; a trial takes {MOST_SETUPS}. Leave out a level.
          </p>
        )}
      </div>
    </form>
  );
}

function addSaid(count: number): string {
  const letters = [...Array(count).keys()].map(stampOf);
  if (count === 1) return 'Add setup A';
  if (count > MOST_SETUPS) return 'Add the setups';
  if (count > 6) return `Add setups A to ${letters.at(-1)}`;
  return `Add setups ${letters.slice(0, -1).join(', ')} and ${letters.at(-1)}`;
}

type OwnRowProps = {
  factor: number;
  tested: Tested[];
  labels: string[];
  texts: FirstTexts;
  set: (field: keyof FirstTexts, text: string) => void;
  refused: Refused | null;
};

/** What is told apart by one factor: of one alone a setup each, under its penny; of several a level each. */
function OwnRow({ factor, tested, labels, texts, set, refused }: OwnRowProps) {
  const alone = tested.length === 1;
  const label = alone ? labels[factor]! : labels[factor]!.replace(' and burrs', '');
  const shown = Number(texts[shownOf(factor)]);
  return (
    <div className={classes.own}>
      {[...Array(shown).keys()].map((i) => (
        <div key={stampOf(i)} className={alone ? classes.ownSetup : classes.ownLevel}>
          {alone && <Penny stamp={stampOf(i)} size={52} label="" />}
          <OwnField
            factor={factor}
            index={i}
            tested={tested[factor]!}
            called={alone ? `${label} of ${stampOf(i)}` : `${label} ${i + 1}`}
            texts={texts}
            set={set}
            refused={refused && new Own(refused, setupsWith(texts, tested.length, factor, i))}
          />
        </div>
      ))}
      {shown < MOST_AT_FIRST && (
        <UnstyledButton className={classes.another} onClick={() => set(shownOf(factor), String(shown + 1))}>
          + another {alone ? 'setup' : label.toLowerCase()}
        </UnstyledButton>
      )}
    </div>
  );
}

type OwnFieldProps = {
  factor: number;
  index: number;
  tested: Tested;
  called: string;
  texts: FirstTexts;
  set: (field: keyof FirstTexts, text: string) => void;
  refused: Refused | null;
};

/** What one setup, or one level, has of its own: the field of what is tested. */
function OwnField({ factor, index, tested, called, texts, set, refused }: OwnFieldProps) {
  const own = ownOf(factor, index);
  const first = factor === 0 && index === 0;
  if (tested === 'brew_ratio') {
    return (
      <NumberField
        label={called}
        placeholder="1:16"
        value={texts[own]!}
        onText={(text) => set(own, text)}
        error={refused?.at('brew_ratio') ?? refused?.at('variables')}
        autoFocus={first && !texts[own] && atADesk()}
      />
    );
  }
  const field = (name: keyof VariablesPatch, text: keyof FirstTexts) => (
    <VariableField
      field={name}
      label={name === 'brewer_type' ? `Kind of ${called.replace(/^.* of /, '')}` : called}
      texts={{ ...EMPTY, [name]: texts[text] ?? '', new_kit: texts.new_kit }}
      set={(f, t) => set(f === 'new_kit' ? 'new_kit' : text, t)}
      refused={refused}
      autoFocus={first && name !== 'brewer_type' && !texts[text]}
    />
  );
  return (
    <>
      {field(tested, own)}
      {tested === 'brewer' && field('brewer_type', kindOf(factor, index))}
    </>
  );
}

/** A refusal as the fields see it that one setup, or every setup with one level, has of its own. */
class Own extends Refused {
  constructor(
    private readonly whole: Refused | null,
    private readonly setups: number[],
  ) {
    super(422, null);
  }
  override at(field: string) {
    return this.setups.map((i) => this.whole?.at(`setups.${i}.${field}`)).find((said) => said);
  }
}
