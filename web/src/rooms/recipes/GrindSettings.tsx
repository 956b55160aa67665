import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { settingsQuery } from '../kit/queries';
import { Cell } from './Cell';
import { grindsOf, linkGrind, withGrind, withoutGrind } from './edits';
import type { RecipeDocument } from './queries';
import classes from './Recipes.module.css';

type GrindSettingsProps = { doc: RecipeDocument; onChange: (doc: RecipeDocument) => void };

/** The settings a recipe gives, each on a grinder of the kit; a name the kit does not have keeps its words and asks for its grinder. */
export function GrindSettings({ doc, onChange }: GrindSettingsProps) {
  const { data: kit } = useQuery(settingsQuery);
  const dials = kit?.scales ?? [];
  const free = dials.filter((d) => !grindsOf(doc).some((g) => g.dial_id === d.id));
  return (
    <fieldset className={classes.grinds}>
      <legend>Grind settings</legend>
      {grindsOf(doc).map((g, i) => {
        const linked = dials.find((d) => d.id === g.dial_id);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: the rows are the list itself, in its order
          <div key={i} className={classes.grind}>
            <Cell
              label={`Setting on ${g.on}`}
              shown={g.setting}
              onText={(setting) => onChange(setting ? withGrind(doc, i, { setting }) : withoutGrind(doc, i))}
            />
            <span>
              on <b>{linked?.name ?? g.on}</b>
            </span>
            {!linked && dials.length > 0 && (
              <select
                aria-label={`Grinder that ${g.on} means`}
                value=""
                onChange={(e) => onChange(linkGrind(doc, i, e.currentTarget.value))}
              >
                <option value="">not in the kit: link to…</option>
                {free.map((d) => (
                  <option key={d.id} value={d.id}>
                    {d.name}
                  </option>
                ))}
              </select>
            )}
            <button
              type="button"
              aria-label={`Remove the setting on ${g.on}`}
              onClick={() => onChange(withoutGrind(doc, i))}
            >
              ×
            </button>
          </div>
        );
      })}
      {free.length > 0 && (
        <AddSetting
          key={grindsOf(doc).length}
          dials={free}
          onAdd={(dial, setting) =>
            onChange({ ...doc, grinds: [...grindsOf(doc), { on: dial.name, setting, dial_id: dial.id }] })
          }
        />
      )}
    </fieldset>
  );
}

type Dial = { id: string; name: string };

/** A setting is typed, then its grinder chosen; the row is made when both are there. */
function AddSetting({ dials, onAdd }: { dials: Dial[]; onAdd: (dial: Dial, setting: string) => void }) {
  const [setting, setSetting] = useState('');
  return (
    <div className={classes.grind}>
      <span className={classes.cell}>
        <input
          aria-label="Another setting"
          placeholder="setting"
          maxLength={24}
          autoComplete="off"
          value={setting}
          onChange={(e) => setSetting(e.currentTarget.value)}
        />
      </span>
      <select
        aria-label="Grinder of this setting"
        disabled={!setting.trim()}
        value=""
        onChange={(e) => {
          const dial = dials.find((d) => d.id === e.currentTarget.value);
          if (dial) onAdd(dial, setting.trim());
        }}
      >
        <option value="">on which grinder?</option>
        {dials.map((d) => (
          <option key={d.id} value={d.id}>
            {d.name}
          </option>
        ))}
      </select>
    </div>
  );
}
