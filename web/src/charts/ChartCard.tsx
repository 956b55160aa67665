import { ActionIcon, Button, Checkbox, Menu, Popover } from '@mantine/core';
import { IconChevronDown, IconDownload, IconTable } from '@tabler/icons-react';
import { type ReactNode, useRef, useState } from 'react';
import { OwnTrouble } from '../ui/OwnTrouble';
import { pictureOf, svgTextOf } from '../ui/picture';
import classes from './chart.module.css';
import { csvOf, type Rows } from './csv';

type ChartCardProps<T> = {
  label: string;
  /** Files are named by it. */
  name: string;
  table: Rows<T>;
  /** Written under the title of a saved picture: what it says, whose its regions are. */
  notes?: string[];
  controls?: ReactNode;
  children: ReactNode;
};

/** A chart with its table twin, and its ways out: SVG, PNG, CSV. */
export function ChartCard<T>({ label, name, table, notes = [], controls, children }: ChartCardProps<T>) {
  const [asTable, setAsTable] = useState(false);
  const drawing = useRef<HTMLDivElement>(null);
  const lines = [label, ...notes.filter(Boolean)];
  return (
    <section className={`card ${classes.card}`} aria-label={label}>
      <header className={classes.tools}>
        <h2>{label}</h2>
        {controls}
        <ActionIcon
          size={32}
          variant={asTable ? 'light' : 'default'}
          aria-pressed={asTable}
          aria-label="Table"
          title="The same as a table"
          onClick={() => setAsTable(!asTable)}
        >
          <IconTable size={18} stroke={1.6} aria-hidden />
        </ActionIcon>
        <Menu position="bottom-end">
          <Menu.Target>
            <ActionIcon size={32} variant="default" aria-label="Save" title="Save as SVG, PNG or CSV">
              <IconDownload size={18} stroke={1.6} aria-hidden />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item
              disabled={asTable}
              onClick={() => keep(`${name}.svg`, svgTextOf(drawing.current!, lines), 'image/svg+xml')}
            >
              as SVG
            </Menu.Item>
            <Menu.Item
              disabled={asTable}
              onClick={async () => follow(`${name}.png`, await pictureOf(drawing.current!, lines))}
            >
              as PNG
            </Menu.Item>
            <Menu.Item onClick={() => keep(`${name}.csv`, csvOf(table), 'text/csv')}>as CSV</Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </header>
      {asTable ? (
        <div className={classes.twin}>
          <table>
            <thead>
              <tr>
                {table.columns.map((c) => (
                  <th key={c.head} scope="col">
                    {c.head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {table.rows.map((row, i) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: rows are drawn once, in order
                <tr key={i}>
                  {table.columns.map((c) => (
                    <td key={c.head} className="num">
                      {c.of(row)}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ) : (
        <div ref={drawing} className={classes.drawing}>
          <OwnTrouble what={label}>{children}</OwnTrouble>
        </div>
      )}
    </section>
  );
}

function keep(name: string, text: string, type: string) {
  const url = URL.createObjectURL(new Blob([text], { type }));
  follow(name, url);
  setTimeout(() => URL.revokeObjectURL(url), 1000);
}

function follow(name: string, url: string) {
  const link = document.createElement('a');
  link.href = url;
  link.download = name;
  link.click();
}

export type OverlayChoice = { code: string; label: string; about: string };

/** Whose box it is: all off or on as the user likes, each naming its school. */
export function OverlayPicker({
  choices,
  on,
  onChange,
}: {
  choices: OverlayChoice[];
  on: string[];
  onChange: (on: string[]) => void;
}) {
  if (!choices.length) return null;
  return (
    <Popover width={400} position="bottom-end" trapFocus>
      <Popover.Target>
        <Button
          size="compact-sm"
          variant={on.length ? 'light' : 'default'}
          rightSection={<IconChevronDown size={14} aria-hidden />}
        >
          Overlays{on.length ? ` · ${on.length}` : ''}
        </Button>
      </Popover.Target>
      <Popover.Dropdown>
        <Checkbox.Group value={on} onChange={onChange} label="Whose regions to draw">
          <div className={classes.choices}>
            {choices.map((c) => (
              <Checkbox key={c.code} value={c.code} label={c.label} description={c.about} />
            ))}
          </div>
        </Checkbox.Group>
      </Popover.Dropdown>
    </Popover>
  );
}
