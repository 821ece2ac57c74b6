import { contractSchema, type Contract } from '@lantern/motion';

/** A contract with one of its numbers changed, by the number's place in it (`speedMps/walk/forward`); null: it is asked no more. */
export function withAsked(contract: Contract, id: string, value: number | null): Contract {
  const [what, first, second] = id.split('/');
  if (what === 'turnAnglesDeg') {
    const angles = contract.turnAnglesDeg.filter((angle) => angle !== Number(second));
    return { ...contract, turnAnglesDeg: value === null ? angles : [...angles, value].sort((a, b) => a - b) };
  }
  const put = (into: unknown, path: readonly string[]): unknown => {
    const [key, ...rest] = path;
    const known = (into ?? {}) as Readonly<Record<string, unknown>>;
    const next = rest.length > 0 ? put(known[key], rest) : (value ?? undefined);
    const { [key]: _, ...others } = known;
    return next === undefined ? others : { ...others, [key]: next };
  };
  const made = contractSchema.safeParse(
    put(
      contract,
      [what, first, second].filter((part) => part !== undefined),
    ),
  );
  return made.success ? made.data : contract;
}
