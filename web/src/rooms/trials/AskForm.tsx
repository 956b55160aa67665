import { Button, Chip, Select, TextInput } from '@mantine/core';
import { useState } from 'react';
import { JUDGED_PASSES, USUAL_JUDGED_PASS } from '../../api/vocabulary';
import { capital, FACTOR_ORDER, FACTORS, isEquipment, optionsOf, yieldOptions } from '../../api/words';
import { NumberField, numberOf, shownAtField, useTyped } from '../../ui/fields';
import { useSend } from '../../ui/useSend';
import type { Factor, JudgedPass, Trial, TrialBody } from './queries';
import classes from './TrialsPage.module.css';

const MOST_FURTHER = 4;
type AskFormProps = {
  /** The trial being changed, or none for a new question. */
  trial?: Trial;
  verb: string;
  send: (body: TrialBody) => Promise<Trial>;
  onDone: (trial: Trial) => void;
  children?: React.ReactNode;
};

/** One question and what differs; the rest has a sensible default. */
export function AskForm({ trial, verb, send, onDone, children }: AskFormProps) {
  const form = useTyped({
    question: trial?.question ?? '',
    factor_other: trial?.factor_other ?? '',
    smallest_difference: String(trial?.smallest_difference ?? 0.5),
  });
  const [factor, setFactor] = useState<Factor | null>(trial?.factor ?? null);
  const [further, setFurther] = useState<Factor[]>(trial?.further_factors ?? []);
  const [school, setSchool] = useState<string>(trial?.school_chosen ?? '');
  const [judgedPass, setJudgedPass] = useState<JudgedPass>(trial?.judged_pass ?? USUAL_JUDGED_PASS);
  const [chosen, setPolicy] = useState<string | null>(trial?.strength_policy ?? null);
  // Until it is chosen, what the margin would ask for: matched where the question is about equipment.
  const policy = chosen ?? (isEquipment([factor ?? '', ...further]) ? 'matched' : 'as_brewed');
  const save = useSend(
    async () =>
      send({
        question: form.texts.question,
        factor: factor ?? 'other',
        further_factors: further.filter((f) => f !== factor),
        factor_other: factor === 'other' ? form.texts.factor_other : '',
        school: (school || null) as TrialBody['school'],
        strength_policy: chosen as TrialBody['strength_policy'],
        smallest_difference: numberOf('smallest_difference', form.texts.smallest_difference) ?? 0.5,
        judged_pass: judgedPass,
      }),
    {
      onDone,
      onTrouble: shownAtField(form.setRefused),
    },
  );
  return (
    <form
      className={classes.ask}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <TextInput
        size="lg"
        label="Your question"
        placeholder="Which filter for the flat bed?"
        maxLength={200}
        value={form.texts.question}
        onChange={(e) => form.set('question', e.currentTarget.value)}
        error={form.refused?.at('question')}
        autoFocus={!trial}
      />
      <fieldset className={classes.factors}>
        <legend>What differs between the setups?</legend>
        {FACTOR_ORDER.map((code) => (
          <label key={code} className={classes.factor}>
            <input type="radio" name="factor" checked={factor === code} onChange={() => setFactor(code)} />
            {FACTORS[code]}
          </label>
        ))}
      </fieldset>
      {factor && (
        <details className={classes.further} open={further.length > 0 || undefined}>
          <summary>Something else differs too, in every combination</summary>
          <Chip.Group
            multiple
            value={further}
            onChange={(chosen) => setFurther((chosen as Factor[]).slice(0, MOST_FURTHER))}
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
      {factor === 'other' && (
        <TextInput
          label="In a word or two, what?"
          placeholder="agitation"
          maxLength={80}
          value={form.texts.factor_other}
          onChange={(e) => form.set('factor_other', e.currentTarget.value)}
          error={form.refused?.at('factor_other')}
        />
      )}
      <div className={classes.defaults}>
        <NumberField
          label="Smallest difference that matters"
          description="A lead below this counts as a practical tie."
          unit="of 9"
          value={form.texts.smallest_difference}
          onText={(text) => form.set('smallest_difference', text)}
          error={form.refused?.at('smallest_difference')}
        />
        <Select
          label="Strength of the cups"
          description="Match strengths to compare equipment; taste as brewed to compare drinks."
          allowDeselect={false}
          value={policy}
          onChange={(value) => setPolicy(value ?? 'as_brewed')}
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
          onChange={(value) => setJudgedPass((value ?? USUAL_JUDGED_PASS) as JudgedPass)}
          data={optionsOf(JUDGED_PASSES).map((o) => ({ ...o, label: capital(o.label) }))}
        />
        <Select
          label="Yield method"
          description="Never mixed within one comparison."
          allowDeselect={false}
          value={school}
          onChange={(value) => setSchool(value ?? '')}
          data={[
            { value: '', label: 'Usual for the brewer' },
            ...yieldOptions.map((o) => ({ ...o, label: capital(o.label) })),
          ]}
        />
      </div>
      <div className={classes.actions}>
        <Button type="submit" size="md" loading={save.isPending} disabled={!factor || !form.texts.question.trim()}>
          {verb}
        </Button>
        {children}
      </div>
    </form>
  );
}
