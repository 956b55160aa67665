import { Button, Menu, UnstyledButton } from '@mantine/core';
import { useLocalStorage } from '@mantine/hooks';
import { VARIABLES } from '../../api/vocabulary';
import { plural } from '../../ui/numbers';
import { Penny, rimOf } from '../../ui/Penny';
import { Sideways } from '../../ui/Sideways';
import { Term } from '../../ui/Term';
import { withUnit } from '../../ui/units';
import classes from './ControlBars.module.css';
import type { Bar, SetUp, Setup } from './queries';

type ControlBarsProps = {
  setUp: SetUp;
  strength: string;
  onEdit: (field: string, label: string) => void;
  onSetup: (setup: Setup) => void;
  onHold: (field: string, letter: string) => void;
  onDeclare: (field: string, label: string, rule: SetUp['matching_rules'][number]['code']) => void;
  onTakeBack: (field: string) => void;
};

const KIND_WORDS: Record<Bar['kind'], string> = {
  held: 'held equal',
  tested: 'what is tested',
  untested: 'should differ, does not yet',
  moved: 'moves with the question',
  declared: 'declared difference',
  crack: 'undeclared difference',
};

/** Variables are rows, setups columns: one unbroken bar is held, tokens are tested, a crack is an undeclared difference. */
export function ControlBars(props: ControlBarsProps) {
  const { setUp, strength, onSetup, onEdit } = props;
  const left = VARIABLES.filter((v) => v.field !== 'other' && !setUp.bars.some((bar) => bar.field === v.field));
  const [folded, setFolded] = useLocalStorage({ key: 'penny.held.folded', defaultValue: false });
  const held = setUp.bars.filter((bar) => bar.kind === 'held');
  const columns = { '--setups': setUp.setups.length } as React.CSSProperties;
  return (
    <Sideways className={classes.scroll} label="The setups side by side">
      <div
        className={classes.grid}
        style={columns}
        data-many={setUp.setups.length > 3 || undefined}
        role="table"
        aria-label="Control bars"
      >
        <div className={classes.row} role="row">
          <span className={classes.corner} role="columnheader">
            variable
          </span>
          <div className={classes.cells}>
            {setUp.setups.map((s) => (
              <div key={s.id} role="columnheader">
                <UnstyledButton className={classes.setup} onClick={() => onSetup(s)}>
                  <Penny stamp={s.letter} size={setUp.setups.length > 3 ? 38 : 46} />
                  <span className={classes.name}>
                    <b>{s.name}</b>
                    <span className="quiet small">{s.runs ? plural(s.runs, 'brew') : 'not brewed yet'}</span>
                  </span>
                </UnstyledButton>
              </div>
            ))}
          </div>
        </div>
        {setUp.bars
          .filter((bar) => !folded || bar.kind !== 'held')
          .map((bar) => (
            <BarRow key={bar.field} bar={bar} {...props} />
          ))}
        {held.length > 1 && (
          <div className={classes.row} role="row">
            <span className={classes.label} role="rowheader">
              <Term of="held">{held.length} held</Term>
            </span>
            <div className={classes.cells} role="cell">
              <UnstyledButton className={classes.fold} aria-expanded={!folded} onClick={() => setFolded(!folded)}>
                {folded ? `Show ${held.map((b) => b.label.toLowerCase()).join(', ')}` : 'Fold what is held'}
              </UnstyledButton>
            </div>
          </div>
        )}
        {left.length > 0 && (
          <div className={classes.row} role="row">
            <span className={classes.label} role="rowheader" />
            <div className={classes.cells} role="cell">
              <Menu>
                <Menu.Target>
                  <UnstyledButton className={classes.fold}>Add a variable</UnstyledButton>
                </Menu.Target>
                <Menu.Dropdown>
                  {left.map((v) => (
                    <Menu.Item key={v.field} onClick={() => onEdit(v.field, v.label)}>
                      {v.label}
                    </Menu.Item>
                  ))}
                </Menu.Dropdown>
              </Menu>
            </div>
          </div>
        )}
        {setUp.setups.some((s) => s.recipe) && <RecipeRow setUp={setUp} />}
        <div className={classes.row} role="row">
          <span className={classes.label} role="rowheader">
            Strength
          </span>
          <div className={classes.cells} role="cell">
            <span className={classes.held}>{strength}</span>
          </div>
        </div>
      </div>
    </Sideways>
  );
}

/** Which recipe the pours come from; a version of its own for each setup when they differ. */
function RecipeRow({ setUp }: { setUp: SetUp }) {
  const names = setUp.setups.map((s) =>
    s.recipe
      ? `${s.recipe.name}, version ${s.recipe.version}${s.recipe.own_amounts ? ', its own amounts' : ''}`
      : 'no recipe',
  );
  const isOne = new Set(names).size === 1;
  return (
    <div className={classes.row} role="row">
      <span className={classes.label} role="rowheader">
        Recipe
      </span>
      <div className={classes.cells} role="cell">
        {isOne ? (
          <span className={classes.held}>{names[0]}</span>
        ) : (
          <span className={classes.moved}>
            {setUp.setups.map((s, i) => (
              <span key={s.letter} className={classes.movedValue}>
                {names[i]}
              </span>
            ))}
          </span>
        )}
      </div>
    </div>
  );
}

function BarRow({ bar, onEdit, ...rest }: { bar: Bar } & ControlBarsProps) {
  const isDerived = bar.field === 'brew_ratio';
  const label = (
    <>
      {bar.label}
      {bar.note && <span className={classes.note}>{bar.note}</span>}
      <span className="sr-only">, {KIND_WORDS[bar.kind]}</span>
    </>
  );
  return (
    <div className={classes.row} role="row" data-kind={bar.kind}>
      {isDerived ? (
        <span className={classes.label} role="rowheader">
          {label}
        </span>
      ) : (
        <div className={classes.labelCell} role="rowheader">
          <UnstyledButton className={classes.label} onClick={() => onEdit(bar.field, bar.label)}>
            {label}
          </UnstyledButton>
        </div>
      )}
      <div className={classes.cells} role="cell">
        <BarBody bar={bar} {...rest} />
      </div>
    </div>
  );
}

function BarBody({ bar, setUp, onHold, onDeclare, onTakeBack }: { bar: Bar } & Omit<ControlBarsProps, 'onEdit'>) {
  const shown = (value: string) => (value ? withUnit(value, bar.unit) : 'not given');
  switch (bar.kind) {
    case 'held':
      return <span className={classes.held}>{shown(bar.segments[0]!.value)}</span>;
    case 'untested':
      return (
        <span className={classes.untested}>
          {shown(bar.segments[0]!.value)} in all of them: give each setup its own
        </span>
      );
    case 'tested':
      return perSetup(bar).map(({ letter, value }) => (
        <span
          key={letter}
          className={classes.token}
          style={{ '--hue': `var(--setup-${rimOf(letter).hue})` } as React.CSSProperties}
        >
          {shown(value)}
        </span>
      ));
    case 'moved':
    case 'declared':
      return (
        <span className={classes.moved}>
          {perSetup(bar).map(({ letter, value }) => (
            <span key={letter} className={classes.movedValue}>
              {shown(value)}
            </span>
          ))}
          {bar.kind === 'declared' && (
            <Button
              className={classes.undeclare}
              size="compact-xs"
              variant="transparent"
              onClick={() => onTakeBack(bar.field)}
            >
              take back
            </Button>
          )}
        </span>
      );
    case 'crack':
      return bar.segments.map((segment, i) => (
        <span
          key={segment.letters.join('')}
          className={classes.piece}
          data-odd={segment.odd}
          data-first={i === 0}
          style={{ gridColumn: `span ${segment.letters.length}` }}
        >
          <b>{shown(segment.value)}</b>
          {segment.odd && (
            <span className={classes.mends}>
              {bar.hold_letter && (
                <Button size="compact-xs" variant="transparent" onClick={() => onHold(bar.field, bar.hold_letter!)}>
                  hold at {shown(heldValue(bar))}
                </Button>
              )}
              <Menu>
                <Menu.Target>
                  <Button size="compact-xs" variant="transparent">
                    declare
                  </Button>
                </Menu.Target>
                <Menu.Dropdown>
                  <Menu.Label>Reason {bar.label.toLowerCase()} differs</Menu.Label>
                  {setUp.matching_rules.map((rule) => (
                    <Menu.Item key={rule.code} onClick={() => onDeclare(bar.field, bar.label, rule.code)}>
                      {rule.label}
                    </Menu.Item>
                  ))}
                </Menu.Dropdown>
              </Menu>
            </span>
          )}
        </span>
      ));
  }
}

/** The value one click would give to all. */
function heldValue(bar: Bar): string {
  return bar.segments.find((s) => s.letters.includes(bar.hold_letter ?? ''))?.value ?? '';
}

function perSetup(bar: Bar): { letter: string; value: string }[] {
  return bar.segments.flatMap((segment) => segment.letters.map((letter) => ({ letter, value: segment.value })));
}
