import { create } from 'zustand';

export const wallTones = ['dark', 'mid', 'light'] as const;
export type WallTone = (typeof wallTones)[number];

const KEY = 'lampwash.wall';

function kept(): WallTone {
  const tone = localStorage.getItem(KEY);
  return wallTones.find(t => t === tone) ?? 'mid';
}

interface Wall {
  tone: WallTone;
  set: (tone: WallTone) => void;
}

/** The tone of the wall that pictures hang on: kept in this browser. */
export const useWall = create<Wall>(set => ({
  tone: kept(),
  set: tone => {
    localStorage.setItem(KEY, tone);
    document.documentElement.dataset.wall = tone;
    set({ tone });
  },
}));

document.documentElement.dataset.wall = useWall.getState().tone;
