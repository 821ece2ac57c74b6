import {
  createStep,
  keyOnOtherSide,
  layerSchema,
  stepSchema,
  withKey,
  type Layer,
  type RecipeStep,
  type StepOfKind,
} from '@lantern/motion';
import { withStepOpened } from '../recipe/add-step';
import type { ClipDoc } from '@/data/clips-store';

export type CorrectionsStep = StepOfKind<'corrections'>;

const isCorrections = (step: RecipeStep): step is CorrectionsStep => step.kind === 'corrections';

/** The corrections of a clip that are worked on: the first that are switched on. */
export const correctionsOf = (doc: ClipDoc | null): CorrectionsStep | null =>
  doc?.steps.filter(isCorrections).find(({ off }) => !off) ?? null;

export const newLayer = (name: string): Layer => layerSchema.parse({ name });

/** A clip whose corrections are changed; a clip without any gets a step of its own for them. */
export function withLayers(doc: ClipDoc, change: (layers: readonly Layer[]) => readonly Layer[]): ClipDoc {
  const step = correctionsOf(doc);
  if (step) return withLayersIn(doc, step, change(step.layers));
  const made = stepSchema.parse({ ...createStep('corrections'), layers: change([]) });
  return withStepOpened(doc, made);
}

export const withLayersIn = (doc: ClipDoc, { id }: CorrectionsStep, layers: readonly Layer[]): ClipDoc => ({
  ...doc,
  steps: doc.steps.map((step) => (step.id === id && isCorrections(step) ? { ...step, layers: [...layers] } : step)),
});

/** A clip with a layer changed; one beyond the last is added. */
export const withLayer = (doc: ClipDoc, index: number, layer: Layer): ClipDoc =>
  withLayers(doc, (layers) => (index < layers.length ? layers.map((own, i) => (i === index ? layer : own)) : [...layers, layer]));

/** A name that no other layer has. */
export function freeLayerName(layers: readonly Pick<Layer, 'name'>[], wish: string): string {
  const name = wish.slice(0, 56);
  for (let n = 1; ; n++) {
    const own = n === 1 ? name : `${name} ${n}`;
    if (!layers.some((layer) => layer.name === own)) return own;
  }
}

/** A layer whose keys at a frame are laid on the other side too, as far as the skeleton has their partners. */
export const withOtherSide = (layer: Layer, frame: number, joints: readonly string[]): Layer =>
  layer.keys
    .filter((key) => key.frame === frame)
    .map(keyOnOtherSide)
    .filter(({ joint }) => joints.includes(joint))
    .reduce(withKey, layer);
