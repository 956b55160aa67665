import { Button, Checkbox, Modal, Select, TextInput } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { DayField } from '../../ui/DayField';
import { DurationField, NumberField, numberOf, secondsOf, shownAtField, useForm } from '../../ui/fields';
import { exactClock } from '../../ui/numbers';
import { Restored } from '../../ui/Restored';
import { useSend } from '../../ui/useSend';
import { FACT_FIELDS, type FactField, type FactTexts, factTexts, oneOf, usualTexts } from './facts';
import { HardnessField } from './HardnessField';
import classes from './Kit.module.css';
import { addKitItem, editKitItem, type KitBody, type KitItem, type KitKind, kitQuery } from './queries';

type KitFormProps = {
  kind: KitKind;
  /** The item being changed, or none for a new one. */
  item?: KitItem | undefined;
  /** For a new burr set: the grinder it sits in. */
  grinderId?: string | undefined;
  onClose: () => void;
  onSaved: (item: KitItem) => void;
};

const DURATIONS = ['heat_s', 'reheat_s', 'after_s', 'usual_s'];

/** The facts of one piece of kit; all but the name may stay unknown. */
function KitForm({ kind, item, grinderId, onClose, onSaved }: KitFormProps) {
  const form = useForm<Record<string, string>>(
    { name: item?.name ?? '', ...begin(item ?? null, kind, grinderId) },
    item ? `kit.${item.id}.${item.rev}` : `kit.new.${kind}`,
  );
  const save = useSend(
    async () => {
      const facts = await factsOf(kind, form.values);
      const body = { name: form.values.name, [kind]: facts };
      return item ? editKitItem(item.id, item.rev, body) : addKitItem({ kind, ...body } as KitBody);
    },
    {
      onDone: (saved) => {
        form.forget();
        onSaved(saved);
        onClose();
      },
      onTrouble: shownAtField(form.setRefused),
    },
  );
  return (
    <Modal opened onClose={onClose} title={item ? item.full_name : `A new ${oneOf(kind).toLowerCase()}`} size="lg">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        <Restored form={form} />
        <div className={classes.formGrid}>
          <TextInput
            className={classes.wide}
            label="Name"
            maxLength={120}
            data-autofocus
            value={form.values.name}
            onChange={(e) => form.set('name', e.currentTarget.value)}
            error={form.refused?.at('name')}
          />
          {FACT_FIELDS[kind].map((field) => (
            <FactInput
              key={field.name}
              field={field}
              value={form.values[field.name] ?? ''}
              set={(text) => form.set(field.name, text)}
              error={form.refused?.at(`${kind}.${field.name}`)}
            />
          ))}
        </div>
        {item && <p className="quiet small">Setups made before keep the facts they were made with.</p>}
        <Button mt="md" type="submit" loading={save.isPending} disabled={!(form.values.name ?? '').trim()}>
          {item ? 'Save' : `Add the ${oneOf(kind).toLowerCase()}`}
        </Button>
      </form>
    </Modal>
  );
}

function begin(item: KitItem | null, kind: KitKind, grinderId: string | undefined): FactTexts {
  const texts = factTexts(item, kind);
  for (const name of DURATIONS) if (texts[name]) texts[name] = exactClock(Number(texts[name]));
  if (!item) {
    Object.assign(texts, usualTexts(kind));
    if (kind === 'burr_set' && grinderId) texts.grinder_id = grinderId;
  }
  return texts;
}

/** What was typed as the bench takes it; what is empty stays unknown. */
async function factsOf(kind: KitKind, texts: Record<string, string>): Promise<Record<string, unknown>> {
  const facts: Record<string, unknown> = {};
  for (const field of FACT_FIELDS[kind]) {
    const text = (texts[field.name] ?? '').trim();
    if (field.form === 'yes') facts[field.name] = text === 'yes';
    else if (text === '') continue;
    else if (field.form === 'number' || field.form === 'whole' || field.form === 'hardness')
      facts[field.name] = numberOf(`${kind}.${field.name}`, text);
    else if (field.form === 'apertures')
      facts[field.name] = text
        .split(/[\s,;/]+/)
        .filter(Boolean)
        .map((a) => numberOf(`${kind}.${field.name}`, a));
    else if (field.form === 'duration') facts[field.name] = await secondsOf(text);
    else facts[field.name] = text;
  }
  return facts;
}

type FactInputProps = { field: FactField; value: string; set: (text: string) => void; error: string | undefined };

function FactInput({ field, value, set, error }: FactInputProps) {
  const { data: kit } = useQuery(kitQuery);
  const shared = { label: field.label, error, placeholder: field.hint };
  switch (field.form) {
    case 'number':
    case 'whole':
      return <NumberField {...shared} {...(field.unit && { unit: field.unit })} value={value} onText={set} />;
    case 'hardness':
      return <HardnessField label={field.label} value={value} onText={set} error={error} />;
    case 'duration':
      return <DurationField label={field.label} error={error} value={value} onText={set} />;
    case 'yes':
      return (
        <Checkbox
          className={classes.tick}
          label={field.label}
          checked={value === 'yes'}
          onChange={(e) => set(e.currentTarget.checked ? 'yes' : '')}
        />
      );
    case 'date':
      return <DayField {...shared} value={value} onText={set} />;
    case 'choice':
    case 'grinder':
    case 'brewer_type': {
      const data =
        field.form === 'grinder'
          ? (kit?.items ?? []).filter((i) => i.kind === 'grinder').map((i) => ({ value: i.id, label: i.name }))
          : field.form === 'brewer_type'
            ? (kit?.brewer_types ?? []).map((t) => ({ value: t.code, label: t.label }))
            : field.options.map(([code, label]) => ({ value: code, label }));
      const optional = field.form === 'brewer_type' || (field.form === 'choice' && field.default === null);
      return (
        <Select
          {...shared}
          placeholder={field.name === 'yield_basis' ? 'as usual for its type' : 'not given'}
          data={data}
          allowDeselect={optional}
          value={value || null}
          onChange={(v) => set(v ?? '')}
        />
      );
    }
    default:
      return <TextInput {...shared} maxLength={200} value={value} onChange={(e) => set(e.currentTarget.value)} />;
  }
}

/** A form kept in a state of its own: opened for a new item or for one that is there. */
export function useKitForm(onSaved: (item: KitItem) => void) {
  const [open, setOpen] = useState<Omit<KitFormProps, 'onClose' | 'onSaved'> | null>(null);
  const form = open && <KitForm {...open} onClose={() => setOpen(null)} onSaved={onSaved} />;
  return { form, open: setOpen };
}
