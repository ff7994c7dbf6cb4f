import { useEffect, useRef, type ReactNode } from 'react';
import { Radio, RadioGroup } from 'react-aria-components';
import { Link } from 'react-router';
import styled from 'styled-components';
import { Button } from './buttons';
import { HoverCard } from './hover-card';
import { useWall, wallTones, type WallTone } from '../app/wall';

const Frame = styled.header`
  height: var(--bar);
  background: var(--paper);
  display: flex;
  align-items: center;
  border-bottom: 1px solid #bdbdbd;
  position: relative;
  z-index: 3;
  padding-right: 16px;
  gap: 12px;
  min-width: 0;
  /* Where there is no room for all of it, it is moved along: nothing lies over anything. */
  @media (max-width: 960px) {
    overflow: auto hidden;
    scrollbar-width: none;
    /* What has the focus comes in whole. */
    scroll-padding: 0 48px;
    > * {
      flex: none;
    }
  }
`;

const Home = styled(Link)`
  width: var(--strip);
  margin-right: -12px;
  height: 100%;
  display: grid;
  place-items: center;
  flex: none;
`;

/** The mark: a lamp over a wash. */
export function Mark() {
  return (
    <svg viewBox="0 0 32 30" width="32" height="30" aria-hidden="true">
      <path d="M16 1v4" stroke="#1c1c1c" strokeWidth="1.7" strokeLinecap="round" />
      <path d="M13.8 4.6h4.4l.8 2.4c3.2 1.5 6.2 4.3 7.4 8.4h-20.8c1.2-4.1 4.2-6.9 7.4-8.4z" fill="#1c1c1c" />
      <path d="M12.4 16.8a3.6 3.6 0 0 0 7.2 0z" fill="#1c1c1c" />
      <path
        d="M4 23.4c4-1.9 8-1.9 12 0s8 1.9 12 0M8 27.7c2.7-1.3 5.3-1.3 8 0s5.3 1.3 8 0"
        fill="none"
        stroke="#1c1c1c"
        strokeWidth="1.6"
        strokeLinecap="round"
      />
    </svg>
  );
}

/** The bar at the top of every screen. */
export function Bar({ children }: { children: ReactNode }) {
  return (
    <Frame>
      <Home to="/" aria-label="Lamp Wash, the shelf">
        <Mark />
      </Home>
      {children}
    </Frame>
  );
}

const Board = styled(Button)`
  padding: 0 12px;
  flex: none;
  svg {
    width: 16px;
    height: 16px;
    stroke-width: 1.75;
  }
  /* The title of the photograph needs the room. */
  @media (max-width: 1439px) {
    padding: 0 8px;
    > span {
      display: none;
    }
  }
`;

/** Opens a board and closes it: a sign with its name, or with the name beside it where there is no room. */
export function BoardButton({
  name,
  sign,
  isOpen,
  onPress,
}: {
  name: string;
  sign: ReactNode;
  isOpen: boolean;
  onPress: () => void;
}) {
  return (
    <HoverCard card={name}>
      <Board aria-label={name} aria-pressed={isOpen} onPress={onPress}>
        {sign}
        <span>{name}</span>
      </Board>
    </HoverCard>
  );
}

const Way = styled.nav`
  display: flex;
  align-items: baseline;
  gap: 9px;
  font: 400 var(--t-title)/1.2 var(--serif);
  white-space: nowrap;
  min-width: 60px;
  flex: 0 1 auto;
  overflow: hidden;
  a {
    flex: 0 4 auto;
    color: var(--ink-2);
    border-radius: 2px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  /* A sliver of a title says nothing: the way up is a sign, and the title stays whole. */
  @media (max-width: 1180px) {
    a {
      flex: none;
      font-size: 0;
    }
    a::before {
      content: '‹' / '';
      font-size: 24px;
      line-height: 1;
    }
    i {
      display: none;
    }
  }
  a:hover {
    color: var(--ink);
  }
  i {
    font-style: normal;
    color: var(--edge);
  }
  h1 {
    font: inherit;
    &:focus-visible {
      outline: none;
      box-shadow: inset 0 -2px 0 var(--lamp);
    }
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

/** Where you are: links to what lies above, then the title of this screen. */
export function Crumbs({
  above = [],
  here,
  screen,
}: {
  above?: { to: string; text: string }[];
  /** Left out while it is not known what the screen is of: a heading without words says nothing. */
  here?: string;
  /** What the screen is for, in the title of the tab, where its heading does not say it. */
  screen?: string;
}) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => {
    document.title = [here, screen, 'Lamp Wash'].filter(Boolean).join(' · ');
  }, [here, screen]);
  // On a new screen the keys begin at its head, unless something has the focus already.
  useEffect(() => {
    if (document.activeElement === document.body) heading.current?.focus({ preventScroll: true });
  }, []);
  return (
    <Way aria-label="Where you are">
      {above.map(({ to, text }) => (
        <span key={to} style={{ display: 'contents' }}>
          <Link to={to} title={text}>
            {text}
          </Link>
          <i aria-hidden="true">/</i>
        </span>
      ))}
      {here ? (
        <h1 ref={heading} tabIndex={-1} aria-current="page" title={here}>
          {here}
        </h1>
      ) : null}
    </Way>
  );
}

export const Push = styled.span`
  flex: 1;
`;

const Tones = styled(RadioGroup)`
  @media (max-width: 1120px) {
    .word {
      display: none;
    }
  }
  display: flex;
  align-items: center;
  gap: 8px;
  color: var(--ink-2);
`;

const Tone = styled(Radio)`
  width: 14px;
  height: 14px;
  border-radius: 50%;
  border: 1px solid #777;
  cursor: pointer;
  &[data-selected] {
    box-shadow:
      0 0 0 2px var(--paper),
      0 0 0 3.5px var(--ink);
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 4px;
  }
`;

const shades: Record<WallTone, string> = { dark: '#3a3a3a', mid: '#6e6e6e', light: '#b9b9b9' };

/** Chooses the tone of the wall. */
export function WallTones() {
  const { tone, set } = useWall();
  return (
    <Tones aria-label="Wall tone" orientation="horizontal" value={tone} onChange={v => set(v as WallTone)}>
      <span aria-hidden="true" className="word">
        <span data-word="Wall">Wall</span>
      </span>
      {wallTones.map(t => (
        <Tone key={t} value={t} aria-label={`${t} wall`} style={{ background: shades[t] }} />
      ))}
    </Tones>
  );
}
