import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { withoutFoot } from './develop';
import { readRadiance } from './hdr';
import { ontoOldPrint } from './old-print';
import { photographs, scenes } from './photographs';

/**
 * Makes the exact areas of things in the demo's photographs, from their scenes: `npx tsx demo/scenes/objects.ts [NAME…]`.
 * Each scene is rendered once more without any light, the thing alone shining white; what is soft in the lens is soft here.
 */

/** A thing, by what of its scene's text is made to shine. */
interface Thing {
  photograph: string;
  shine: (scene: string) => string;
}

const LIT = 'texture { pigment { rgb 1 } finish { ambient 0 diffuse 0 emission 1 } } no_reflection';

/** Objects of the scene, by the names of their meshes. */
const meshes =
  (...names: string[]) =>
  (scene: string) =>
    names.reduce(
      (text, name) => text.replace(new RegExp(`object \\{ ${name} .*`), `object { ${name} ${LIT} }`),
      scene,
    );

/** A ball of wool, by where it is put. */
const ball = (place: string) => (scene: string) =>
  scene
    .replace(
      /#macro Wool[^]*?#end/,
      '#macro Wool(Tint) texture { pigment { rgb (Tint.x > 3 ? 1 : 0) } finish { diffuse 0 emission (Tint.x > 3 ? 1 : 0) } } #end',
    )
    .replace(new RegExp(`(Put\\(${place.replaceAll('.', '\\.')}),\\w+\\)`), '$1,<9,9,9>)');

export const things: Record<string, Thing> = {
  'front-quince': {
    photograph: 'quinces-and-enamel-jug',
    shine: s => s.replace('Fruit(Fruit1, Stalk1, 17)', `object { Fruit1 ${LIT} } object { Stalk1 ${LIT} }`),
  },
  'right-quince': {
    photograph: 'quinces-and-enamel-jug',
    shine: s => s.replace('Fruit(Fruit2, Stalk2, 41)', `object { Fruit2 ${LIT} } object { Stalk2 ${LIT} }`),
  },
  jug: { photograph: 'quinces-and-enamel-jug', shine: meshes('JugBody', 'JugHandle', 'JugRim') },
  shawl: { photograph: 'keepers-chair', shine: meshes('Shawl') },
  stove: { photograph: 'keepers-chair', shine: meshes('Stove', 'Door', 'Pipe', 'Kettle') },
  boat: {
    photograph: 'ferry-boat-at-slack-water',
    shine: meshes(
      ...['Paintwork', 'Band', 'Lining', 'Transom', 'Woodwork', 'Ribs'],
      ...['Thwart0', 'Thwart1', 'Thwart2', 'Oars'],
    ),
  },
  'blue-bottle': {
    photograph: 'bottles-on-the-sill',
    shine: s =>
      s.replace(/Glass\(Bottle0,.*/, `object { Bottle0 ${LIT} rotate y*10 translate <-23,0.02,1> }`),
  },
  'crimson-ball': { photograph: 'dyers-baskets', shine: ball('-5.6,4.1,-17.5,1.06') },
  'sky-ball': { photograph: 'dyers-baskets', shine: ball('13.2,4.2,-12.3,1.08') },
  // Fine things, for what is recomputed along an edge: the near reeds, and two lanterns with their wires.
  reeds: {
    photograph: 'reeds-first-frost',
    shine: s =>
      s
        .replace('#macro Reed(', '#declare Shines = 0;\n#macro Reed(')
        .replaceAll(/(object \{ (?:Stems|Plumes)\[K\]) (.*) \}/g, `$1 #if (Shines) ${LIT} #else $2 #end }`)
        .replace('#for (I, 1, 70)', '#declare Shines = 1;\n  #for (I, 1, 70)')
        .replace('#for (I, 1, 900)', '#declare Shines = 0;\n  #for (I, 1, 900)'),
  },
  'red-lantern': {
    photograph: 'lantern-store',
    shine: s => s.replace(/Metal0 .* interior \{ ior 1.5 \}/, `Metal0 ${LIT}`),
  },
  'green-lantern': {
    photograph: 'lantern-store',
    shine: s => s.replace(/Metal2 .* interior \{ ior 1.5 \}/, `Metal2 ${LIT}`),
  },
  // The third shed's door: its boards with what is behind their gaps, and what is nailed on.
  door: {
    photograph: 'third-door',
    shine: s => {
      const lit = LIT.replace(' no_reflection', '');
      return s
        .replace(
          '#macro StoneTint',
          `box { <0.6,0.02,-0.03>, <2.5,2.14,-0.025> ${LIT} } box { <1.5,0.03,-0.13>, <1.62,2.13,-0.06> ${LIT} }\n#macro StoneTint`,
        )
        .replace('texture { Boarded rotate z*90 }', `#if (S = 3) ${lit} #else $& #end`)
        .replace('Painted(Door*0.92, 0.2, J+S*3, 0.3)', `#if (S = 3) ${lit} #else $& #end`)
        .replace(/(object \{ Hinge .*) \}/, `$1 #if (S = 3) ${lit} #end }`);
    },
  },
};

/** A scene's text without anything that shines, up to the closing brace of each light. */
function dark(scene: string): string {
  let text = scene;
  for (;;) {
    const at = text.search(/(light_source|fog) \{/);
    if (at < 0) break;
    let depth = 0;
    let end = text.indexOf('{', at);
    do {
      if (text[end] === '{') depth++;
      else if (text[end] === '}') depth--;
      end++;
    } while (depth > 0);
    text = text.slice(0, at) + text.slice(end);
  }
  return text.replace(/^ *(RoomLight|Shore|Clouded)\(.*/gm, '').replace(/emission [^d}]*/g, 'emission 0 ');
}

const here = dirname(fileURLToPath(import.meta.url));
const work = process.env.LAMPWASH_SCENES ?? join(here, '..', '..', 'data', 'scenes');
const finished = join(here, '..', 'objects');
const RENDERED = 1800;
const KEPT = 1200;
/** So many levels are kept: a thing of many fine parts would be a large file otherwise. */
const LEVELS = 16;

for (const name of process.argv.length > 2 ? process.argv.slice(2) : Object.keys(things)) {
  const thing = things[name];
  if (!thing) throw new Error(`There is no thing "${name}". There are: ${Object.keys(things).join(', ')}.`);
  const { scene, view, upright, foot = 0, scan } = photographs[thing.photograph]!;
  mkdirSync(work, { recursive: true });
  writeFileSync(join(work, `${scene}.inc`), scenes[scene]!());
  const text = readFileSync(join(here, `${scene}.pov`), 'utf8');
  const shining = thing.shine(dark(text));
  if (shining === dark(text)) throw new Error(`Nothing of ${scene}.pov was made to shine for ${name}.`);
  const file = join(work, `object-${name}.pov`);
  writeFileSync(file, shining);
  const short = Math.round((RENDERED * 2) / 3);
  const [width, height] = upright ? [short, RENDERED] : [RENDERED, short];
  const light = join(work, `object-${name}.hdr`);
  const rendered = spawnSync(
    'povray',
    [
      ...[`+I${file}`, `+O${light}`, `+L${work}`, `+L${here}`, `+W${width}`, `+H${height}`],
      ...['+FH', '+WT2', '-D', '+A0.1', '-V', '-GD', '-GR', '-GS', `Declare=View=${view}`],
    ],
    { stdio: 'pipe', maxBuffer: 1 << 28 },
  );
  if (rendered.status !== 0) throw new Error(`${name}: ${rendered.stderr.toString().slice(-2000)}`);
  const cut = withoutFoot(readRadiance(readFileSync(light)), foot);
  const white = Float32Array.from({ length: cut.width * cut.height }, (_, i) =>
    Math.min(1, cut.light[i * 3]!),
  );
  const area = scan ? ontoOldPrint(white, cut.width, cut.height) : white;
  const kept = await sharp(
    Uint8Array.from(area, v => Math.round(v * 255)),
    { raw: { width: cut.width, height: cut.height, channels: 1 } },
  )
    .resize(KEPT, KEPT, { fit: 'inside' })
    .toColourspace('b-w')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const levels = Uint8Array.from(kept.data, v => Math.round((Math.round((v / 255) * LEVELS) / LEVELS) * 255));
  await sharp(levels, { raw: { width: kept.info.width, height: kept.info.height, channels: 1 } })
    .toColourspace('b-w')
    .png({ compressionLevel: 9, palette: true, colours: LEVELS + 1, dither: 0 })
    .toFile(join(finished, `${name}.png`));
}
