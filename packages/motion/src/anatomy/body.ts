import type { Body, BodyDoubt } from '../model/body';

/** What every command says of a skeleton that is not a person's. */
export const NOT_A_PERSON = 'This is not a person: no trunk on two legs of thigh, shin and foot was found.';

/** What a person has answered to the doubts about a body: as it was found, or the other reading. */
export type BodyAnswers = Readonly<Partial<Record<BodyDoubt['part'], 'found' | 'other'>>>;

/** A body with its doubts answered; those that were not asked about stay. */
export function answered(body: Body, answers: BodyAnswers): Body {
  return body.doubts.reduce<Body>((out, doubt) => {
    const answer = answers[doubt.part];
    if (!answer) return out;
    return { ...out, ...(answer === 'other' && doubt.other.body), doubts: out.doubts.filter((other) => other !== doubt) };
  }, body);
}
