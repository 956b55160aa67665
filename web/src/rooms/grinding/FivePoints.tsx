import { SegmentedControl } from '@mantine/core';
import classes from './Grind.module.css';

type FivePointsProps = { label: string; ends: string; value: string; onChange: (value: string) => void };

/** One to five, or not said. */
export function FivePoints({ label, ends, value, onChange }: FivePointsProps) {
  return (
    <div className={classes.five}>
      <span>
        {label} <span className="quiet small">1 to 5, {ends}</span>
      </span>
      <SegmentedControl
        aria-label={label}
        value={value || 'none'}
        onChange={(v) => onChange(v === 'none' ? '' : v)}
        data={[{ value: 'none', label: '–' }, ...['1', '2', '3', '4', '5'].map((v) => ({ value: v, label: v }))]}
      />
    </div>
  );
}
