import { ATTRIBUTES, TEST_METHODS, USUAL_PASS } from '../../api/vocabulary';
import type { AttributeCode, FlightBody, FlightMethod } from './queries';

export type AskedBlinding = NonNullable<FlightBody['blinding']>;

/** Everything that is chosen for a flight. null: as suggested. */
export const NEW_FLIGHT = {
  picked: null as string[] | null,
  twice: [] as string[],
  tasters: [] as string[],
  blinding: 'shuffle' as AskedBlinding,
  hostTastes: false,
  chosen: null as FlightMethod | null,
  passes: [USUAL_PASS] as string[],
  attributes: ATTRIBUTES.filter((a) => a.usual).map((a) => a.code as string),
  jar: [] as string[],
  extras: [] as string[],
  cups: '',
  cleanser: true,
  likingLast: false,
  rest: '30',
  rounds: 1,
  ownChosen: null as boolean | null,
  named: ATTRIBUTES.find((a) => a.usual)!.code as string,
  stronger: '',
};
export type FlightValues = typeof NEW_FLIGHT;

const IN_ROUNDS = TEST_METHODS.filter((m) => m.layout === 'rounds').map((m) => m.code as string);
export const isInRounds = (method: FlightMethod) => IN_ROUNDS.includes(method);

/** The brew expected to have more, as the form shows it and as it is sent: the chosen one while it is in the flight, else the first listed. */
export const expectedStronger = (listed: { id: string }[], chosen: string): string =>
  (listed.find((run) => run.id === chosen) ?? listed[0])?.id ?? '';

type Chosen = { method: FlightMethod; brews: string[]; stronger: string; ownSets: boolean; restS: number };

/** The flight as the bench takes it; what the method does not ask is left at its usual. */
export function flightBody(values: FlightValues, { method, brews, stronger, ownSets, restS }: Chosen): FlightBody {
  const scored = method === 'scores';
  const isNamed = method === 'two_afc';
  return {
    run_ids: brews,
    taster_ids: values.tasters,
    blinding: values.blinding,
    host_tastes: values.blinding === 'runner' && values.hostTastes,
    method,
    attributes: values.attributes as AttributeCode[],
    passes: (scored && values.passes.length ? values.passes : [USUAL_PASS]) as FlightBody['passes'],
    duplicate_run_ids: scored ? values.twice.filter((id) => brews.includes(id)) : [],
    jar: scored ? (values.jar as AttributeCode[]) : [],
    guess: (scored || method === 'ranking') && values.extras.includes('guess'),
    sip_temperature: scored && values.extras.includes('sip'),
    cleanser: values.cleanser,
    liking_last: values.likingLast,
    cups: (values.cups || null) as FlightBody['cups'],
    rest_s: restS,
    rounds: isInRounds(method) ? values.rounds : 1,
    own_sets: ownSets,
    named_attribute: isNamed ? (values.named as AttributeCode) : null,
    stronger_run_id: isNamed ? stronger || null : null,
    cup_temperature_c: null,
  };
}
