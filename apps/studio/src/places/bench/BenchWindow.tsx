'use client';
import { BenchStage } from './BenchStage';
import { HoldBar } from './layers/HoldBar';
import { Glasses } from './glasses/Glasses';
import { PreviewBar } from './PreviewBar';
import { takeFrameNow } from './use-load-player';
import { REPEATS, type Workbench } from './use-workbench';

/** The stage with what the clip looks like on it, and the glasses that lie over it. */
export function BenchWindow({ bench }: { bench: Workbench }) {
  const { doc, opened, isOpen, cut, shown, measured, preview, glass, travels } = bench;
  return (
    <>
      <BenchStage
        take={isOpen ? (opened.data ?? null) : null}
        error={opened.error}
        shown={shown}
        markers={measured?.markers ?? null}
        speedMps={measured?.figures?.speedMps ?? null}
        character={bench.character}
        isBusy={bench.isBusy}
        pair={bench.pair}
        pen={bench.pen}
        corrections={bench.corrections}
        ghost={bench.ghost}
        judged={bench.judged}
      >
        {bench.corrections.isOn && <HoldBar />}
        <PreviewBar
          preview={preview}
          hasClip={doc !== null}
          hasCut={cut !== null}
          isLoop={shown?.loop ?? false}
          glass={glass}
          repeats={REPEATS}
          onCaptured={() => travels.showTake(takeFrameNow(bench.time))}
          onPreview={bench.setPreview}
          onGlass={bench.setGlass}
          onWorry={bench.worry}
          isCorrecting={bench.corrections.isOn}
          onCorrect={bench.correct}
        />
      </BenchStage>
      {opened.data && isOpen && (
        <Glasses shown={glass} take={opened.data} cut={cut} onCut={bench.edits.takeLoop} onClose={() => bench.setGlass(null)} />
      )}
    </>
  );
}
