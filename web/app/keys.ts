/**
 * The keys of the application, each once: where it is for, how it is pressed, what it does. Handlers take them by name
 * (`useKeys`), and README and the help show this list.
 */

export interface Key {
  /** The part of the application that it is for. */
  where: string;
  /** As it is written for people; several are parted by commas. */
  written: string;
  does: string;
  /** What is matched: `Ctrl+Shift+Z`, `[`, `Delete`. Left out for keys that a control handles by itself. */
  press?: readonly string[];
}

const define = <N extends string>(list: Record<N, Key>): Record<N, Key> => list;

export const keys = define({
  help: {
    where: 'everywhere',
    written: '`?`',
    does: 'shows this list; on a control what it does',
    press: ['?'],
  },
  bare: {
    where: 'Bench',
    written: '`B`, or hold it',
    does: 'shows the bare photograph until it is pressed again, or as long as it is held',
    press: ['B'],
  },
  half: {
    where: 'Bench',
    written: '`H`, or hold it',
    does: 'compares half and half: bare on one side of the line, treated on the other, or what is chosen there',
    press: ['H'],
  },
  side: {
    where: 'Bench',
    written: '`S`, or hold it',
    does: 'compares side by side',
    press: ['S'],
  },
  turn: {
    where: 'Bench, comparing',
    written: '`Shift H`',
    does: 'lays the two the other way',
    press: ['Shift+H'],
  },
  partingLine: {
    where: 'line between halves',
    written: 'drag, arrows (with `Shift` far), double click or `Enter`',
    does: 'moves it; lays it the other way',
  },
  strip: {
    where: 'Bench',
    written: '`T`',
    does: 'a test strip of the control in hand; of a second one a grid; of the same it is put away',
    press: ['T'],
  },
  takeStrip: {
    where: 'test strip',
    written: 'arrows and `Enter`, or a press on a band',
    does: 'takes one; `Escape` puts the strip away',
  },
  fit: { where: 'Bench', written: '`F`', does: 'fits the picture', press: ['F'] },
  natural: { where: 'Bench', written: '`N`', does: 'natural size, 1:1', press: ['N'] },
  twice: { where: 'Bench', written: '`Shift N`', does: 'twice that, 2:1', press: ['Shift+N'] },
  loupe: {
    where: 'Bench',
    written: 'hold `Z`',
    does: 'looks at 1:1 where the pointer is, and back',
    press: ['Z'],
  },
  earlierPhotograph: { where: 'Bench', written: '`,`', does: 'the photograph before', press: [','] },
  laterPhotograph: { where: 'Bench', written: '`.`', does: 'the photograph after', press: ['.'] },
  alone: {
    where: 'Bench',
    written: '`A`',
    does: 'the picture alone on the wall, over the whole screen; `A` or `Escape` brings the rest back',
    press: ['A'],
  },
  undo: {
    where: 'Bench, Sheet, Shelf',
    written: '`Ctrl Z`',
    does: 'undo, without end and behind a reload',
    press: ['Ctrl+Z'],
  },
  redo: { where: 'Bench, Sheet, Shelf', written: '`Ctrl Shift Z`', does: 'redo', press: ['Ctrl+Shift+Z'] },
  history: { where: 'Bench', written: '`Y`', does: 'opens the history, and closes it', press: ['Y'] },
  methods: {
    where: 'Bench',
    written: '`P`',
    does: 'opens the methods, done page by page, and closes them',
    press: ['P'],
  },
  looks: { where: 'Bench', written: '`L`', does: 'opens the looks, and closes them', press: ['L'] },
  tint: {
    where: 'Bench',
    written: '`W`',
    does: 'takes pigments in the hand, to tint by strokes, and puts them back',
    press: ['W'],
  },
  carryOver: {
    where: 'Bench',
    written: '`C`',
    does: 'carries the last treatment over to this photograph',
    press: ['C'],
  },
  copy: {
    where: 'Bench',
    written: '`Ctrl C`',
    does: 'copies the whole treatment; on the tray line the chosen step, or the range',
  },
  layOn: { where: 'Bench', written: '`Ctrl V`', does: 'lays on what was copied' },
  lost: { where: 'Bench', written: '`M`', does: 'marks what is lost to black and to white', press: ['M'] },
  zoomIn: { where: 'the picture', written: '`+`, wheel', does: 'zooms in', press: ['+', '='] },
  zoomOut: { where: 'the picture', written: '`-`, wheel', does: 'zooms out', press: ['-'] },
  movePicture: {
    where: 'the picture',
    written: 'arrows, drag (with a tool: `Space` or the middle button and drag)',
    does: 'moves it',
  },
  pan: {
    where: 'the picture',
    written: 'hold `Space`',
    does: 'a drag moves it, whatever the tool',
    press: [' '],
  },
  pull: {
    where: 'the picture, mono chosen',
    written: 'press on a colour, drag up or down',
    does: 'pulls its tone',
  },
  paint: {
    where: 'the picture, step on an area',
    written: 'drag; `Alt`, `Shift`',
    does: 'paints; takes away; draws a straight line from the last place',
  },
  smaller: { where: 'the picture, step on an area', written: '`[`', does: 'brush smaller', press: ['['] },
  larger: {
    where: 'the picture, step on an area',
    written: '`]`, `Shift` and wheel',
    does: 'brush larger',
    press: [']'],
  },
  taking: {
    where: 'the picture, step on an area',
    written: '`X`',
    does: 'the brush adds, or takes away',
    press: ['X'],
  },
  either: {
    where: 'Bench',
    written: '`E`, `Shift E`',
    does: 'the next alternative of the chosen tray; the one before',
    press: ['E', 'Shift+E'],
  },
  pigment: {
    where: 'wash',
    written: '`1` to `9`',
    does: 'takes one of the first nine pigments of the box',
    press: ['1', '2', '3', '4', '5', '6', '7', '8', '9'],
  },
  giveUp: {
    where: 'picking a colour, a board, looks, a test strip',
    written: '`Escape`',
    does: 'gives up; closes it',
    press: ['Escape'],
  },
  handle: {
    where: 'crop, handles on the picture, loupe',
    written: 'drag, arrows (with `Shift` far)',
    does: 'moves the handle that has the focus, or the whole',
  },
  trays: {
    where: 'tray line',
    written: '`←` `→`, with `Shift`',
    does: 'chooses a tray; takes a range, which the keys below act on as one',
  },
  moveTray: {
    where: 'tray line',
    written: '`Alt ←` `Alt →`',
    does: 'moves the tray, past the end of a group into the next',
  },
  toggleTray: { where: 'tray line', written: '`Space`', does: 'switches the step off and on', press: [' '] },
  copyTray: { where: 'tray line', written: '`Ctrl D`', does: 'copies the step', press: ['Ctrl+D'] },
  groupTrays: { where: 'tray line', written: '`G`', does: 'groups the range', press: ['G'] },
  removeTray: {
    where: 'tray line',
    written: '`Delete`',
    does: 'removes the step',
    press: ['Delete', 'Backspace'],
  },
  lamp: { where: 'lamp', written: '`←` `→` `Home` `End`', does: 'shows the treatment up to another step' },
  curve: {
    where: 'curve',
    written: 'arrows (with `Shift` in tens), `Delete`, press, drag, double click',
    does: 'moves a point; removes it; adds one, moves it, removes it',
  },
  gradient: {
    where: 'gradient, reach',
    written: '`←` `→` (with `Shift` in tens), drag; `Delete` on a stop',
    does: 'slides a stop or an end; removes a stop, its neighbour is next',
  },
  slider: {
    where: 'slider',
    written: 'arrows, `Page Up`, `Page Down`, wheel on the one in hand (with `Shift` in tens), double click',
    does: 'small steps, large steps; double click sets it back',
  },
  chooseAll: {
    where: 'Sheet',
    written: 'arrows, `Space`, `Shift` + arrows, `Ctrl A`',
    does: 'chooses prints, ranges, all',
  },
  putAside: {
    where: 'Sheet',
    written: '`Delete`',
    does: 'puts the chosen photographs aside',
    press: ['Delete'],
  },
  openPrint: { where: 'Sheet', written: '`Enter` or double click', does: 'opens a photograph' },
  movePrint: {
    where: 'Sheet',
    written: '`Tab` to *Move*, `Enter`, arrows, `Enter`',
    does: 'lays a print into another place',
  },
});

export type KeyName = keyof typeof keys;

interface Pressed {
  key: string;
  ctrlKey: boolean;
  metaKey: boolean;
  altKey: boolean;
  shiftKey: boolean;
}

/** Whether a press is a key of the list. Letters are told without their case; Shift counts where it is asked for. */
export function isKey(name: KeyName, { key, ctrlKey, metaKey, altKey, shiftKey }: Pressed): boolean {
  return (keys[name] as Key).press!.some(press => {
    const parts = press === '+' ? ['+'] : press.split('+');
    const wanted = parts.at(-1)!;
    const isLetter = /^[A-Z]$/.test(wanted);
    return (
      key.toLowerCase() === wanted.toLowerCase() &&
      (ctrlKey || metaKey) === parts.includes('Ctrl') &&
      !altKey &&
      (!isLetter || shiftKey === parts.includes('Shift'))
    );
  });
}

/** Kinds of input that nothing is written in. */
const wordless = new Set([
  'button',
  'checkbox',
  'color',
  'file',
  'image',
  'radio',
  'range',
  'reset',
  'submit',
]);

/** Keys that move about in a field of a number, or change it. */
const WITHIN_NUMBERS = /^(Arrow\w+|Home|End|Backspace|Delete)$/;

/**
 * Whether a key is meant for the field that has the focus, and so is no command. A field of a number takes all that is written,
 * also what is no number; only `?` asks about it. With Ctrl a key is a command there as long as nothing is half typed
 * (`data-typed`).
 */
export function isTyping({
  target,
  key,
  ctrlKey,
  metaKey,
}: Pick<KeyboardEvent, 'target' | 'key' | 'ctrlKey' | 'metaKey'>): boolean {
  if (!(target instanceof HTMLElement)) return false;
  // Escape empties a field to find something in; in an empty one it is meant for what holds the field.
  if (target instanceof HTMLInputElement && target.type === 'search' && key === 'Escape') {
    return target.value !== '';
  }
  if (target.isContentEditable || /^(TEXTAREA|SELECT)$/.test(target.tagName)) return true;
  if (!(target instanceof HTMLInputElement) || wordless.has(target.type)) return false;
  if (target.inputMode !== 'numeric' && target.inputMode !== 'decimal') return true;
  const isWritten = key.length === 1 && key !== '?' && !ctrlKey && !metaKey;
  return target.dataset.typed !== undefined || isWritten || WITHIN_NUMBERS.test(key);
}

/** The list as a table in Markdown. */
export function keysTable(): string {
  const rows = Object.values<Key>(keys).map(
    ({ where, written, does }) => `| ${where} | ${written} | ${does} |`,
  );
  return ['| where | key | does |', '| --- | --- | --- |', ...rows].join('\n');
}
