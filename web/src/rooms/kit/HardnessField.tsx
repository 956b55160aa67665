import { Select } from '@mantine/core';
import { useState } from 'react';
import { Refused } from '../../api/client';
import { NumberField, numberOf } from '../../ui/fields';
import classes from './Kit.module.css';
import { convertHardness, type HardnessUnit } from './queries';

const UNITS: { value: HardnessUnit; label: string }[] = [
  { value: 'mg_l_caco3', label: 'mg/L CaCO₃' },
  { value: 'dh', label: '°dH' },
  { value: 'fh', label: '°fH' },
  { value: 'gpg', label: 'gpg' },
  { value: 'mmol_l', label: 'mmol/L' },
];

type HardnessFieldProps = { label: string; value: string; onText: (text: string) => void; error?: string | undefined };

/** Hardness in any common unit; kept, and shown back, as mg/L of CaCO₃. */
export function HardnessField({ label, value, onText, error }: HardnessFieldProps) {
  const [unit, setUnit] = useState<HardnessUnit>('mg_l_caco3');
  const [typed, setTyped] = useState(value);
  const [trouble, setTrouble] = useState<string>();
  const read = async (text: string, from: HardnessUnit) => {
    setTrouble(undefined);
    if (from === 'mg_l_caco3' || !text.trim()) return onText(text);
    try {
      const amount = numberOf('hardness', text);
      if (amount !== null) onText(String(Math.round((await convertHardness(amount, from)) * 10) / 10));
    } catch (refused) {
      setTrouble(refused instanceof Refused ? refused.message : String(refused));
    }
  };
  return (
    <div className={classes.hardness}>
      <NumberField
        label={label}
        value={unit === 'mg_l_caco3' ? value : typed}
        onText={(text) => {
          setTyped(text);
          void read(text, unit);
        }}
        error={trouble ?? error}
        description={unit !== 'mg_l_caco3' && value ? `${value} mg/L as CaCO₃` : undefined}
      />
      <div>
        <Select
          aria-label={`Unit of ${label.toLowerCase()}`}
          allowDeselect={false}
          data={UNITS}
          value={unit}
          onChange={(v) => {
            setUnit(v as HardnessUnit);
            setTyped('');
          }}
        />
      </div>
    </div>
  );
}
