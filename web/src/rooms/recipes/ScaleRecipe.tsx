import { Button, Modal, SegmentedControl, Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Staircase } from '../../charts/staircase/Staircase';
import { localRefusal, NumberField, numberOf, shownAtField, useForm } from '../../ui/fields';
import { fixed } from '../../ui/numbers';
import { useLook } from '../../ui/useLook';
import { kitQuery } from '../kit/queries';
import { tidyDocument } from './edits';
import { checkQuery, type RecipeDocument, scaleRecipe } from './queries';
import classes from './Recipes.module.css';

type To = 'dose_g' | 'cups' | 'vessel_ml';
type ScaleRecipeProps = { doc: RecipeDocument; onScaled: (doc: RecipeDocument) => void; onClose: () => void };

const UNITS: Record<To, [label: string, unit: string]> = {
  dose_g: ['Dose', 'g'],
  cups: ['Cups', ''],
  vessel_ml: ['The vessel holds', 'mL'],
};

/** The same recipe for another dose, for so many cups, or to fill a vessel: ratio and each pour's share stay. */
export function ScaleRecipe({ doc, onScaled, onClose }: ScaleRecipeProps) {
  const { data: kit } = useQuery(kitQuery);
  const [to, setTo] = useState<To>('dose_g');
  const [brewer, setBrewer] = useState('');
  const [even, setEven] = useState<'exact' | '1' | '5'>('exact');
  const form = useForm({ dose_g: '', cups: '', vessel_ml: '', cup_g: '200' });
  const scale = useLook(async (twice: boolean) => {
    const round_to_g = even === 'exact' ? null : (Number(even) as 1 | 5);
    if (twice && doc.dose_g) return scaleRecipe({ document: doc, brewer, dose_g: 2 * doc.dose_g, round_to_g });
    const amount = numberOf(to, form.values[to]);
    if (amount === null) throw localRefusal(to, 'nothing is typed.', 'Give a number.');
    const cup_g = numberOf('cup_g', form.values.cup_g) ?? 200;
    return scaleRecipe({ document: doc, brewer, [to]: amount, cup_g, round_to_g });
  }, shownAtField(form.setRefused));
  const found = scale.error ? null : scale.read;
  const scaled = found && tidyDocument(found.document);
  const { data: checked } = useQuery({ ...checkQuery(scaled ?? {}), enabled: !!scaled });
  const field = (name: keyof typeof form.values, label: string, unit: string) => (
    <NumberField
      label={label}
      unit={unit}
      value={form.values[name]}
      onText={(t) => form.set(name, t)}
      error={form.refused?.at(name)}
    />
  );
  return (
    <Modal opened onClose={onClose} title="Scale the recipe" size="lg">
      <form
        className={classes.form}
        onSubmit={(e) => {
          e.preventDefault();
          scale.ask(false);
        }}
      >
        <SegmentedControl
          aria-label="Scale to"
          value={to}
          onChange={(v) => setTo(v as To)}
          data={[
            { value: 'dose_g', label: 'a dose' },
            { value: 'cups', label: 'cups' },
            { value: 'vessel_ml', label: 'a vessel' },
          ]}
        />
        <div className={classes.formRow}>
          {field(to, UNITS[to][0], UNITS[to][1])}
          {to === 'cups' && field('cup_g', 'of drink each', 'g')}
          <Select
            label="Brewed in"
            placeholder="no brewer in particular"
            clearable
            clearButtonProps={{ 'aria-label': 'No brewer in particular' }}
            data={kit?.items.filter((i) => i.kind === 'brewer' && !i.retired).map((i) => i.name) ?? []}
            value={brewer || null}
            onChange={(v) => setBrewer(v ?? '')}
          />
        </div>
        <SegmentedControl
          aria-label="Round the pours"
          value={even}
          onChange={(v) => setEven(v as typeof even)}
          data={[
            { value: 'exact', label: 'pours exact' },
            { value: '1', label: 'to 1 g' },
            { value: '5', label: 'to 5 g' },
          ]}
        />
        <div className={classes.formRow}>
          <Button type="submit" variant={scaled ? 'default' : 'filled'} loading={scale.isPending}>
            Work it out
          </Button>
          <Button variant="default" disabled={!doc.dose_g} onClick={() => scale.ask(true)}>
            Twice
          </Button>
        </div>
      </form>
      {scaled && (
        <div className={classes.scaled}>
          <p>
            <b className="num">{fixed(scaled.dose_g, 1)} g</b> coffee
            {checked && (
              <>
                , <b className="num">{fixed(checked.poured_g + checked.bypass_g, 0)} g</b> water, 1:
                {fixed(checked.brew_ratio, 1)}
              </>
            )}
          </p>
          <Staircase timeline={checked?.timeline ?? []} total_s={checked?.total_s ?? 0} height={170} />
          {found.warnings.map((w) => (
            <p key={w} className={classes.warned}>
              {w}
            </p>
          ))}
          <Button
            onClick={() => {
              onScaled(scaled);
              onClose();
            }}
          >
            Use it
          </Button>
        </div>
      )}
    </Modal>
  );
}
