import { Button, Chip, Select, TextInput } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { JUDGED_PASSES, MOST_FURTHER, USUAL_JUDGED_PASS } from '../../api/vocabulary';
import {
  capital,
  FACTOR_ORDER,
  FACTORS,
  hasOwnStrength,
  isEquipment,
  labelOf,
  optionsOf,
  yieldOptions,
} from '../../api/words';
import { localRefusal, NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { Penny } from '../../ui/Penny';
import { Restored } from '../../ui/Restored';
import { useSend } from '../../ui/useSend';
import { stampOf } from './firstTexts';
import { type Factor, guessOf, guessQuery, type JudgedPass, type Trial, type TrialBody } from './queries';
import classes from './TrialsPage.module.css';

type AskFormProps = {
  /** The trial being changed, or none for a new question. */
  trial?: Trial;
  verb: string;
  send: (body: TrialBody) => Promise<Trial>;
  onDone: (trial: Trial) => void;
  children?: React.ReactNode;
};

/** One question; what differs is guessed from it and can be changed; how it is judged has defaults and stays folded. */
export function AskForm({ trial, verb, send, onDone, children }: AskFormProps) {
  const form = useForm(
    {
      question: trial?.question ?? '',
      factor_other: trial?.factor_other ?? '',
      smallest_difference: String(trial?.smallest_difference ?? 0.5),
      factor: (trial?.factor ?? null) as Factor | null,
      further_factors: (trial?.further_factors ?? null) as Factor[] | null,
      yield_basis: (trial?.yield_basis_chosen ?? '') as string,
      judged_pass: (trial?.judged_pass ?? USUAL_JUDGED_PASS) as JudgedPass,
      strength_policy: (trial?.strength_policy ?? null) as string | null,
    },
    trial ? '' : 'ask',
  );
  const { question, factor: told, further_factors: toldFurther, yield_basis, strength_policy: chosen } = form.values;
  const judgedPass = form.values.judged_pass;
  const [choosing, setChoosing] = useState(false);
  const guess = useQuery(guessQuery(useDebouncedValue(question, GUESS_AFTER_MS)[0]));
  const guessed = question.trim() && guess.data ? guess.data : NO_GUESS;
  const factor = told ?? guessed.factor;
  const further = toldFurther ?? (told === null || told === guessed.factor ? guessed.further_factors : []);
  // Until it is chosen, what the margin would ask for: matched where the question is about equipment.
  const ownStrength = hasOwnStrength([factor ?? '', ...further]);
  const usual = isEquipment([factor ?? '', ...further]) ? 'matched' : 'as_brewed';
  const policy = ownStrength ? 'as_brewed' : (chosen ?? usual);
  const save = useSend(
    async () => {
      const late = factor ? null : await guessOf(question); // asked faster than it was guessed
      const meant = factor ?? late?.factor;
      if (!meant) {
        setChoosing(true);
        throw localRefusal('factor', 'the question does not say what differs.', 'Choose it below.');
      }
      return send({
        question,
        factor: meant,
        further_factors: (late ? late.further_factors : further).filter((f) => f !== meant),
        factor_other: meant === 'other' ? form.values.factor_other : '',
        yield_basis: (yield_basis || null) as TrialBody['yield_basis'],
        strength_policy: (ownStrength ? null : chosen) as TrialBody['strength_policy'],
        smallest_difference: numberOf('smallest_difference', form.values.smallest_difference) ?? 0.5,
        judged_pass: judgedPass,
      });
    },
    {
      onDone: (made) => {
        form.forget();
        onDone(made);
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  const choose = (code: Factor) => {
    form.set('factor', code);
    setChoosing(true); // stays open, so that another can be tried
  };
  const open = choosing || (question.trim() !== '' && !factor && guess.isSuccess && !guess.isPlaceholderData);
  return (
    <form
      className={classes.ask}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <Restored form={form} />
      <TextInput
        size="lg"
        label="Your question"
        placeholder="Which filter: white weave or grey felt?"
        maxLength={200}
        value={question}
        onChange={(e) => form.set('question', e.currentTarget.value)}
        error={form.refused?.at('question')}
        autoFocus={!trial}
      />
      {factor && !open && (
        <p className={classes.about}>
          What differs: <span className={classes.guessed}>{FACTORS[factor]}</span>
          {further.map((f) => (
            <span key={f} className={classes.guessed}>
              × {FACTORS[f]}
            </span>
          ))}
          <Button variant="subtle" size="compact-sm" onClick={() => setChoosing(true)}>
            Change
          </Button>
        </p>
      )}
      {open && (
        <>
          <fieldset className={classes.factors}>
            <legend>What differs between the setups?</legend>
            {FACTOR_ORDER.map((code) => (
              <label key={code} className={classes.factor}>
                <input type="radio" name="factor" checked={factor === code} onChange={() => choose(code)} />
                {FACTORS[code]}
              </label>
            ))}
          </fieldset>
          {form.refused?.at('factor') && <p role="alert">{form.refused.at('factor')}</p>}
          {factor && (
            <details className={classes.further} open={further.length > 0 || undefined}>
              <summary>Something else differs too, in every combination</summary>
              <Chip.Group
                multiple
                value={further}
                onChange={(chosen) => form.set('further_factors', (chosen as Factor[]).slice(0, MOST_FURTHER))}
              >
                <div className={classes.chips}>
                  {FACTOR_ORDER.filter((code) => code !== factor && code !== 'other').map((code) => (
                    <Chip key={code} value={code} disabled={further.length >= MOST_FURTHER && !further.includes(code)}>
                      {FACTORS[code]}
                    </Chip>
                  ))}
                </div>
              </Chip.Group>
              {form.refused?.at('further_factors') && <p role="alert">{form.refused.at('further_factors')}</p>}
            </details>
          )}
        </>
      )}
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
      {!trial && factor && (
        <Preview named={guessed.factor === factor ? guessed.options : []} least={further.length ? 4 : 2} />
      )}
      <details className={classes.judged} open={form.refused?.at('smallest_difference') ? true : undefined}>
        <summary>
          How it is judged
          <span className="quiet small">
            {' '}
            a lead of {form.values.smallest_difference} of 9 matters · {POLICY_SAID[policy as keyof typeof POLICY_SAID]}{' '}
            · {labelOf(JUDGED_PASSES, judgedPass)}
          </span>
        </summary>
        <div className={classes.defaults}>
          <NumberField
            label="Smallest difference that matters"
            description="A lead below this counts as a practical tie."
            unit="of 9"
            value={form.values.smallest_difference}
            onText={(text) => form.set('smallest_difference', text)}
            error={form.refused?.at('smallest_difference')}
          />
          <Select
            label="Strength of the cups"
            description={
              ownStrength
                ? 'What is asked changes the strength: matched, all cups would be one drink.'
                : 'Match strengths to compare equipment; taste as brewed to compare drinks.'
            }
            disabled={ownStrength}
            allowDeselect={false}
            value={policy}
            onChange={(value) => form.set('strength_policy', value ?? 'as_brewed')}
            data={[
              { value: 'as_brewed', label: 'As brewed' },
              { value: 'matched', label: 'Matched before tasting' },
            ]}
          />
          <Select
            label="Judged by"
            description="The temperature people drink it at."
            allowDeselect={false}
            value={judgedPass}
            onChange={(value) => form.set('judged_pass', (value ?? USUAL_JUDGED_PASS) as JudgedPass)}
            data={optionsOf(JUDGED_PASSES).map((o) => ({ ...o, label: capital(o.label) }))}
          />
          <Select
            label="Yield method"
            description="Never mixed within one comparison."
            allowDeselect={false}
            value={yield_basis}
            onChange={(value) => form.set('yield_basis', value ?? '')}
            data={[
              { value: '', label: 'Usual for the brewer' },
              ...yieldOptions.map((o) => ({ ...o, label: capital(o.label) })),
            ]}
          />
        </div>
      </details>
      <div className={classes.actions}>
        <Button type="submit" size="md" loading={save.isPending} disabled={!question.trim()}>
          {verb}
        </Button>
        {children}
      </div>
    </form>
  );
}

const GUESS_AFTER_MS = 200;
const NO_GUESS = { factor: null, further_factors: [] as Factor[], options: [] as string[] };
const POLICY_SAID = { as_brewed: 'tasted as brewed', matched: 'strengths matched' };

/** The comparison to come: two pennies (four where two things differ at once), with what the question names on them as far as it does. */
function Preview({ named, least }: { named: string[]; least: number }) {
  const shown = named.length > 1 ? named : Array<string>(least).fill('');
  return (
    <div className={classes.preview} aria-hidden>
      {shown.map((name, i) => (
        <span key={stampOf(i)}>
          <Penny stamp={stampOf(i)} size={64} label="" />
          <span className={name ? undefined : classes.blank}>{name}</span>
        </span>
      ))}
    </div>
  );
}
