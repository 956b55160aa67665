import { fixed } from '../../ui/numbers';
import { Penny } from '../../ui/Penny';
import { Sized } from '../Sized';
import classes from './PowerCurves.module.css';

const LOW = 1;
const HIGH = 9;
const HEIGHT = 74;
const COIN = 36;

/** The least lead this panel can see, as two pennies on the scale of liking; the shorter bar is what matters to the host. */
export function SeenLead({
  lead,
  letters,
  matters,
}: {
  lead: number | null;
  letters: [string, string];
  matters: number;
}) {
  const shown = Math.min(lead ?? 0, HIGH - LOW);
  const middle = (LOW + HIGH) / 2;
  return (
    <Sized
      height={HEIGHT}
      label={lead === null ? 'Being worked out' : `A lead of ${fixed(lead, 1)} points on the scale of 1 to 9`}
    >
      {(width) => {
        const x = (v: number) => COIN / 2 + 4 + ((v - LOW) / (HIGH - LOW)) * (width - COIN - 8);
        const ends = [middle - shown / 2, middle + shown / 2] as const;
        return (
          <>
            {[...Array(HIGH).keys()].map((i) => (
              <g key={i}>
                <line className={classes.notch} x1={x(i + 1)} x2={x(i + 1)} y1={46} y2={52} />
                <text className={classes.point} x={x(i + 1)} y={68} textAnchor="middle">
                  {i + 1}
                </text>
              </g>
            ))}
            <line className={classes.bench} x1={x(LOW)} x2={x(HIGH)} y1={46} y2={46} />
            <line className={classes.least} x1={x(middle - matters / 2)} x2={x(middle + matters / 2)} y1={46} y2={46} />
            {lead !== null &&
              ends.map((v, i) => (
                <g
                  key={letters[i]}
                  className={classes.coin}
                  style={{ transform: `translate(${x(v) - COIN / 2}px, 5px)` }}
                >
                  <Penny stamp={letters[i]!} size={COIN} label="" />
                </g>
              ))}
          </>
        );
      }}
    </Sized>
  );
}
