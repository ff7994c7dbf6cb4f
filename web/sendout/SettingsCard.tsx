import { useState } from 'react';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import type { FormatView, Packing, SendOutSettings } from '../../contract/send-outs';
import type { TakeSummary } from '../../contract/takes';
import { stepKind } from '../../core/steps';
import { countOf, numberInWords, sizeInWords, wordFor, wordWithin } from '../../words/words';
import { Button, LinkButton, Segments } from '../ui/buttons';
import { Picker } from '../ui/overlays';
import { Slider } from '../ui/slider';
import { estimated } from './estimate';
import { BorderRows } from './BorderRows';
import { NamesRow } from './NamesRow';
import { NaturalDialog } from './NaturalDialog';
import { Part, Row } from '../ui/rows';
import { SizeRows } from './SizeRows';
import { TellRows } from './TellRows';

const PACKINGS: Record<Packing, string> = { lzw: 'LZW', deflate: 'Deflate', none: 'Not packed' };

const Card = styled.section`
  background: var(--paper-high);
  box-shadow: var(--shade-label);
  border-radius: var(--r-label);
  padding: 10px 18px 0;
  align-self: start;
  --paper: var(--paper-high);
`;

const Go = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  position: sticky;
  /* The edge of what is seen, not of what scrolls. */
  bottom: -26px;
  z-index: 1;
  background: var(--paper-high);
  margin: 8px -18px 0;
  padding: 12px 18px;
  border-radius: 0 0 var(--r-label) var(--r-label);
  border-top: 1px solid var(--rule);
  p {
    color: var(--ink-2);
    font-size: var(--t-small);
    min-width: 0;
    overflow-wrap: anywhere;
    line-height: 1.4;
  }
  b {
    display: block;
    color: var(--ink);
    font-size: var(--t-body);
    font-weight: 600;
  }
`;

const Advice = styled.p`
  min-height: 24px;
  padding: 4px 0 0;
  line-height: 1.4;
`;

const PURPOSES: { value: SendOutSettings['sharpen']['purpose']; text: string }[] = [
  { value: 'none', text: 'Not at all' },
  { value: 'screen', text: 'For a screen' },
  { value: 'glossy', text: 'For glossy paper' },
  { value: 'matte', text: 'For matte paper' },
];

/** How the files are made. */
export function SettingsCard({
  formats,
  settings,
  onChange,
  going,
  example,
  busy,
  onSend,
}: {
  formats: readonly FormatView[];
  settings: SendOutSettings;
  onChange: (settings: SendOutSettings) => void;
  going: { photograph: Photograph; take: TakeSummary; number: number }[];
  /** A name as files will have it. */
  example: string;
  busy: boolean;
  onSend: () => void;
}) {
  // Layers are made of a take by itself; here are pictures.
  const pictureFormats = formats.filter(f => !f.layers);
  const format = pictureFormats.find(f => f.name === settings.format) ?? pictureFormats[0];
  const set = (change: Partial<SendOutSettings>) => {
    const next = { ...settings, ...change };
    const { bits, profiles, packings } = formats.find(f => f.name === next.format) ?? format;
    onChange({
      ...next,
      bits: bits.includes(next.bits) ? next.bits : bits[0],
      profile: profiles.includes(next.profile) ? next.profile : profiles[0],
      packing: packings.length && !packings.includes(next.packing) ? packings[0] : next.packing,
    });
  };
  const toned = going.filter(g => g.take.steps.some(kind => stepKind(kind)?.givesColour)).length;
  const isGrey = settings.profile === 'grey' || settings.profile === 'grey-gamma';
  const sizes = going.map(({ photograph, take }) => estimated(settings, photograph, take.steps));
  const bytes = sizes.reduce((sum, s) => sum + s.bytes, 0);
  const pixels = sizes.reduce((sum, s) => sum + s.pixels, 0);
  const { purpose, amount } = settings.sharpen;
  const [looking, setLooking] = useState(false);
  return (
    <Card aria-label="Settings">
      <Row>
        <span>Format</span>
        <Segments
          label="Format"
          value={settings.format}
          options={pictureFormats.map(({ name }) => ({ value: name, text: wordFor(name) }))}
          onChange={name => set({ format: name })}
        />
      </Row>
      <Row>
        <span>Bits</span>
        <Segments
          label="Bits"
          value={String(settings.bits)}
          options={([8, 10, 16] as const)
            .filter(n => n !== 10 || format.bits.includes(10))
            .map(n => ({ value: String(n), text: String(n), disabled: !format.bits.includes(n) }))}
          onChange={chosen => set({ bits: format.bits.find(n => String(n) === chosen) ?? 8 })}
        />
      </Row>
      <Row>
        <span>Colour profile</span>
        <Picker
          label="Colour profile"
          value={settings.profile}
          options={format.profiles.map(name => ({ value: name, text: wordWithin('profile', name) }))}
          onChange={profile => set({ profile })}
        />
      </Row>
      <SizeRows settings={settings} pictures={going.map(g => g.photograph)} onChange={set} />
      {format.quality ? (
        <div style={{ paddingTop: 8 }}>
          <Slider
            wide
            label="Quality"
            value={settings.quality}
            min={1}
            max={100}
            step={1}
            standard={90}
            onChange={quality => set({ quality: Math.round(quality) })}
            onChangeEnd={quality => set({ quality: Math.round(quality) })}
          />
        </div>
      ) : null}
      {format.chroma && !isGrey ? (
        <Row>
          <span>Colour detail</span>
          <Segments
            label="Colour detail"
            value={settings.chroma}
            options={[
              { value: 'kept', text: 'Whole' },
              { value: 'halved', text: 'Half' },
            ]}
            onChange={chroma => set({ chroma })}
          />
        </Row>
      ) : null}
      {format.progressive ? (
        <Row>
          <span>Shown</span>
          <Segments
            label="Shown while it loads"
            value={settings.progressive ? 'coarse' : 'rows'}
            options={[
              { value: 'rows', text: 'Row by row' },
              { value: 'coarse', text: 'Coarse at first' },
            ]}
            onChange={way => set({ progressive: way === 'coarse' })}
          />
        </Row>
      ) : null}
      {format.packings.length ? (
        <Row>
          <span>Packed</span>
          <Segments
            label="Packed"
            value={settings.packing}
            options={format.packings.map(value => ({ value, text: PACKINGS[value] }))}
            onChange={packing => set({ packing })}
          />
        </Row>
      ) : null}
      <Row>
        <span>Sharpened</span>
        <Picker
          label="Sharpened"
          value={purpose}
          options={PURPOSES}
          onChange={next => set({ sharpen: { purpose: next, amount } })}
        />
      </Row>
      {purpose === 'none' ? null : (
        <>
          <Slider
            wide
            label="Sharpening"
            value={amount}
            min={0}
            max={1}
            step={0.01}
            standard={0.35}
            shownTimes={100}
            onChange={next => set({ sharpen: { purpose, amount: next } })}
            onChangeEnd={next => set({ sharpen: { purpose, amount: next } })}
          />
          <Row>
            <span />
            <Button $small isDisabled={!going.length} onPress={() => setLooking(true)}>
              See it at 1:1
            </Button>
          </Row>
          {looking && going.length ? (
            <NaturalDialog
              shown={going.map(g => ({ take: g.take, text: `${g.photograph.title}, take ${g.take.letter}` }))}
              settings={settings}
              onChange={onChange}
              onClose={() => setLooking(false)}
            />
          ) : null}
        </>
      )}
      <BorderRows border={settings.border} onChange={border => set({ border })} />
      <Part>
        <NamesRow names={settings.names} example={example} onChange={names => set({ names })} />
      </Part>
      <Part>
        <TellRows what={settings.metadata} onChange={metadata => set({ metadata })} />
      </Part>
      {/* Always there, so that nothing moves when it speaks. */}
      <Advice role="status" aria-label="Advice">
        {isGrey && toned > 0 ? (
          <>
            {going.length === 1
              ? 'This take is toned: a grey file leaves its colour out. '
              : `${countOf(toned, 'take is', 'takes are')} toned: a grey file leaves the colour out. `}
            <LinkButton onPress={() => set({ profile: 'srgb' })}>Send in sRGB</LinkButton>
          </>
        ) : null}
      </Advice>
      <Go>
        <p>
          <b>About {sizeInWords(bytes)}</b>
          {going.length > 1
            ? `${countOf(going.length, 'file')} of about ${sizeInWords(bytes / going.length)}`
            : `${(pixels / 1e6).toFixed(1)} megapixels`}
        </p>
        <Button $ink data-tour="send" isDisabled={!going.length || busy} onPress={onSend}>
          {going.length > 1 ? `Send out ${numberInWords(going.length)}` : 'Send out'}
        </Button>
      </Go>
    </Card>
  );
}
