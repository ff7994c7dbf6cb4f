import { LooksBoard } from '../../laying/LooksBoard';
import { useRested, useWork } from '../work';

export function LooksSide() {
  const { bench, picture, series, sharing, lay } = useWork();
  const { treatment } = useRested();
  return (
    <LooksBoard
      picture={picture}
      treatment={treatment}
      sharing={sharing}
      inSeries={series?.photographs.length ?? 0}
      onTry={bench.tryOn}
      onLay={({ treatment: laid, laid: ids }, name) => {
        bench.closeSide();
        lay(laid, `Look: ${name}`, ids.at(-1));
      }}
      onClose={bench.closeSide}
    />
  );
}
