import { Button, UnstyledButton } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Refused } from '../../api/client';
import { FACTOR_KINDS } from '../../api/vocabulary';
import { atADesk } from '../../ui/desk';
import { NumberField, shownAtField, useTyped } from '../../ui/fields';
import { Penny } from '../../ui/Penny';
import { Restored } from '../../ui/Restored';
import { useSend } from '../../ui/useSend';
import { recipesQuery } from '../recipes/queries';
import { RecipePicker } from '../recipes/RecipePicker';
import { bodyOfFirst, EMPTY_FIRST, type FirstTexts, heldTexts, MOST_AT_FIRST, ownField, stampOf } from './firstTexts';
import { addFirstSetups, guessQuery, heldBeforeQuery, type Trial, type VariablesPatch } from './queries';
import classes from './SetUp.module.css';
import { EMPTY, type Texts } from './texts';
import { VariableField } from './VariableField';
import { VARIABLES, variableOf } from './variables';

/** The first setups: what differs, said once for each; dose and water; everything else the same in all. */
export function FirstSetup({ trial, otherLabel }: { trial: Trial; otherLabel: string }) {
  const guess = useQuery(guessQuery(trial.question));
  if (guess.isPending) return null; // what the question names stands in the fields from the start
  const named = guess.data?.factor === trial.factor ? guess.data.options : [];
  return <FirstForm trial={trial} otherLabel={otherLabel} named={named} />;
}

function FirstForm({ trial, otherLabel, named }: { trial: Trial; otherLabel: string; named: string[] }) {
  const form = useTyped<keyof FirstTexts>(
    { ...EMPTY_FIRST, ...Object.fromEntries(named.slice(0, MOST_AT_FIRST).map((text, i) => [`own_${i}`, text])) },
    `first.${trial.id}`,
  );
  const { texts, set, refused } = form;
  const recipes = useQuery(recipesQuery);
  const before = useQuery(heldBeforeQuery(trial.id));
  const tested = ownField(FACTOR_KINDS.find((f) => f.code === trial.factor)!.tests);
  const byRatio = tested === 'brew_ratio';
  const count = Math.max(Number(texts.shown), named.length, 2);
  const given = [...Array(count).keys()].filter((i) => texts[`own_${i}`]?.trim()).map(stampOf);
  const save = useSend(async () => addFirstSetups(trial.id, bodyOfFirst(texts, tested, count)), {
    onDone: form.forget,
    onTrouble: shownAtField(form.setRefused),
  });
  const testedLabel = byRatio ? 'Ratio' : tested === 'other' ? otherLabel : variableOf(tested)!.label;
  const shared = { texts: texts as Texts, set: set as (f: keyof Texts, t: string) => void, refused };
  const amounts: (keyof VariablesPatch)[] = byRatio ? ['dose_g'] : ['dose_g', 'brew_water_g'];
  const folded = VARIABLES.filter((v) => v.field !== tested && !(amounts as string[]).includes(v.field)).filter(
    (v) => v.field !== 'other',
  );
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
            Dose and {byRatio ? 'the ratios' : 'brew water'} are enough. Everything else counts as the same in all.
          </p>
        </div>
        {before.data?.before && (
          <Button
            variant="default"
            onClick={() => form.reset({ ...texts, ...heldTexts(before.data.before!.variables) })}
          >
            Start from what trial {before.data.before.number} held
          </Button>
        )}
      </div>
      <Restored form={form} />
      <div className={classes.own}>
        {[...Array(count).keys()].map((i) => (
          <div key={stampOf(i)} className={classes.ownSetup}>
            <Penny stamp={stampOf(i)} size={52} label="" />
            <OwnField index={i} tested={tested} label={testedLabel} texts={texts} set={set} refused={refused} />
          </div>
        ))}
        {count < MOST_AT_FIRST && (
          <UnstyledButton className={classes.another} onClick={() => set('shown', String(count + 1))}>
            + another setup
          </UnstyledButton>
        )}
      </div>
      <div className={classes.firstFields}>
        {amounts.map((field) => (
          <VariableField key={field} field={field} {...shared} autoFocus={field === 'dose_g' && named.length > 0} />
        ))}
        {tested !== 'brewer' && <VariableField field="brewer_type" {...shared} />}
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
        <Button type="submit" size="md" loading={save.isPending}>
          {given.length > 1 ? `Add setups ${given.slice(0, -1).join(', ')} and ${given.at(-1)}` : 'Add setup A'}
        </Button>
      </div>
    </form>
  );
}

type OwnFieldProps = {
  index: number;
  tested: ReturnType<typeof ownField>;
  label: string;
  texts: FirstTexts;
  set: (field: keyof FirstTexts, text: string) => void;
  refused: Refused | null;
};

/** What one setup has of its own: the field of what is tested, speaking of this setup alone. */
function OwnField({ index, tested, label, texts, set, refused }: OwnFieldProps) {
  const own = `own_${index}` as const;
  const called = `${label} of ${stampOf(index)}`;
  const at = (field: string) => refused?.at(`setups.${index}.${field}`);
  if (tested === 'brew_ratio') {
    return (
      <NumberField
        label={called}
        placeholder="1:16"
        value={texts[own]!}
        onText={(text) => set(own, text)}
        error={at('brew_ratio') ?? at('variables')}
        autoFocus={index === 0 && !texts[own] && atADesk()}
      />
    );
  }
  const mine = new Own(refused, index);
  const field = (name: keyof VariablesPatch, text: keyof FirstTexts) => (
    <VariableField
      field={name}
      label={name === 'brewer_type' ? `Kind of ${stampOf(index)}` : called}
      texts={{ ...EMPTY, [name]: texts[text] ?? '', new_kit: texts.new_kit }}
      set={(f, t) => set(f === 'new_kit' ? 'new_kit' : text, t)}
      refused={refused && mine}
      autoFocus={index === 0 && name !== 'brewer_type' && !texts[text]}
    />
  );
  return (
    <>
      {field(tested, own)}
      {tested === 'brewer' && field('brewer_type', `kind_${index}` as keyof FirstTexts)}
    </>
  );
}

/** A refusal as one setup's own fields see it. */
class Own extends Refused {
  constructor(
    private readonly whole: Refused | null,
    private readonly index: number,
  ) {
    super(422, null);
  }
  override at(field: string) {
    return this.whole?.at(`setups.${this.index}.${field}`);
  }
}
