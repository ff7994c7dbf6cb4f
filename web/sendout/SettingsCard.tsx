import { Input, NumberField } from 'react-aria-components';
import styled from 'styled-components';
import { LONGEST_EDGE } from '../../contract/limits';
import type { Photograph } from '../../contract/photographs';
import type { FormatView, SendOutSettings } from '../../contract/send-outs';
import type { TakeSummary } from '../../contract/takes';
import { stepKind } from '../../core/steps';
import { countOf, numberInWords, wordFor, wordWithin } from '../app/words';
import { Button, LinkButton, Segments } from '../ui/buttons';
import { Picker } from '../ui/overlays';
import { Slider } from '../ui/slider';

const Card = styled.section`
  background: var(--paper-high);
  box-shadow: var(--shade-label);
  border-radius: var(--r-label);
  padding: 14px 18px 0;
  align-self: start;
  margin-top: 30px;
  --paper: var(--paper-high);
`;

const Row = styled.div`
  display: grid;
  grid-template-columns: 88px 1fr;
  column-gap: 10px;
  align-items: center;
  min-height: 42px;
  > span {
    color: var(--ink-2);
  }
`;

const Two = styled.div`
  display: grid;
  grid-template-columns: 1fr 84px;
  column-gap: 10px;
  align-items: end;
  input {
    width: 100%;
    height: 27px;
    background: #fff;
    border: 0;
    border-bottom: 1px solid var(--edge);
    text-align: right;
    padding: 0 6px;
    font-weight: 550;
  }
  input:focus {
    outline: none;
    border-bottom: 2px solid var(--lamp);
  }
`;

const Go = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  margin: 12px -18px 0;
  padding: 14px 18px;
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
  min-height: 38px;
  padding: 6px 0 0;
  line-height: 1.4;
`;

const KEY = 'lampwash.send-out';
const standard: SendOutSettings = { format: 'jpeg', bits: 8, profile: 'srgb', quality: 90, longEdge: null };

/** The settings used last in this browser. */
export function keptSettings(): SendOutSettings {
  try {
    return { ...standard, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<SendOutSettings>) };
  } catch {
    return standard;
  }
}

export function keepSettings(settings: SendOutSettings): void {
  localStorage.setItem(KEY, JSON.stringify(settings));
}

/** Always the same object: another one would undo what is being typed. */
const WHOLE = { useGrouping: false, maximumFractionDigits: 0 };
const SMALLEST = 16;

/** How the files are made. */
export function SettingsCard({
  formats,
  settings,
  onChange,
  going,
  busy,
  onSend,
}: {
  formats: readonly FormatView[];
  settings: SendOutSettings;
  onChange: (settings: SendOutSettings) => void;
  going: { photograph: Photograph; take: TakeSummary; number: number }[];
  busy: boolean;
  onSend: () => void;
}) {
  const format = formats.find(f => f.name === settings.format) ?? formats[0];
  const set = (change: Partial<SendOutSettings>) => {
    const next = { ...settings, ...change };
    const { bits, profiles } = formats.find(f => f.name === next.format) ?? format;
    onChange({
      ...next,
      bits: bits.includes(next.bits) ? next.bits : bits[0],
      profile: profiles.includes(next.profile) ? next.profile : profiles[0],
    });
  };
  const largest = going.reduce((most, g) => Math.max(most, g.photograph.width, g.photograph.height), 0);
  const toned = going.filter(g => g.take.steps.some(kind => stepKind(kind)?.givesColour)).length;
  const pixels = going.reduce((sum, { photograph: p }) => {
    const scale = Math.min(1, (settings.longEdge ?? Infinity) / Math.max(p.width, p.height));
    return sum + p.width * p.height * scale * scale;
  }, 0);
  return (
    <Card aria-label="Settings">
      <Row>
        <span>Format</span>
        <Segments
          label="Format"
          value={settings.format}
          options={formats.map(({ name }) => ({ value: name, text: wordFor(name) }))}
          onChange={name => set({ format: name })}
        />
      </Row>
      <Row>
        <span>Bits</span>
        <Segments
          label="Bits"
          value={String(settings.bits) as '8' | '16'}
          options={[
            { value: '8', text: '8', disabled: !format.bits.includes(8) },
            { value: '16', text: '16', disabled: !format.bits.includes(16) },
          ]}
          onChange={bits => set({ bits: bits === '16' ? 16 : 8 })}
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
      <Row>
        <span>Size</span>
        <Two>
          <Picker
            label="Size"
            value={settings.longEdge === null ? 'full' : 'long'}
            options={[
              { value: 'full', text: 'Full size' },
              { value: 'long', text: 'Long edge' },
            ]}
            onChange={size => set({ longEdge: size === 'full' ? null : Math.min(2400, largest || 2400) })}
          />
          {settings.longEdge === null ? null : (
            <NumberField
              aria-label="Long edge in pixels"
              value={settings.longEdge}
              minValue={SMALLEST}
              maxValue={LONGEST_EDGE}
              formatOptions={WHOLE}
              onChange={v => set({ longEdge: Number.isFinite(v) ? v : 2400 })}
            >
              <Input />
            </NumberField>
          )}
        </Two>
      </Row>
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
      {/* Always there, so that nothing moves when it speaks. */}
      <Advice role="status" aria-label="Advice">
        {settings.profile === 'grey' && toned > 0 ? (
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
          <b>{`${(pixels / 1e6).toFixed(pixels < 10e6 ? 1 : 0)} megapixels in all`}</b>
          Each named by series, number, title and take.
        </p>
        <Button $ink isDisabled={!going.length || busy} onPress={onSend}>
          {going.length > 1 ? `Send out ${numberInWords(going.length)}` : 'Send out'}
        </Button>
      </Go>
    </Card>
  );
}
