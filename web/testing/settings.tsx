import { useState } from 'react';
import { changeSetting } from '../../core/treatment/edit';
import { stepKind } from '../../core/steps';
import type { Treatment } from '../../core/treatment/treatment';
import { FieldControls } from '../controls/FieldControls';
import { ToolsContext, type BenchTools } from '../controls/tools';
import type { SetSetting } from '../takes/edits';
import { put, treated } from './desk';

/** What a control made of the settings of a step. */
export interface Set {
  settings: () => Record<string, unknown>;
  /** What each change that came to rest was called. */
  labels: string[];
}

/** The controls of one step, whose settings they change; no picture is there. */
export async function settingsOf(step: object): Promise<Set & { unmount: () => Promise<void> }> {
  const start = treated([step]);
  const { id, kind } = start.steps[0];
  const labels: string[] = [];
  let newest: Treatment = start;
  function Controls() {
    const [now, setNow] = useState(start);
    const change = (path: readonly string[], value: unknown, label?: string) => {
      newest = changeSetting(newest, id, path, value);
      setNow(newest);
      if (label !== undefined) labels.push(label);
    };
    const set: SetSetting = Object.assign(change, { glide: change });
    const tools: BenchTools = {
      picture: { id: 'none', width: 60, height: 40, grey: false, damage: null },
      treatment: now,
      step: now.steps[0],
      commit: made => setNow((newest = made)),
      editWhenFound: async (_label, find, edit) => {
        const made = edit(await find, newest);
        if (made) setNow((newest = made));
      },
      preview: made => setNow((newest = made)),
      tryOn: () => undefined,
      pick: () => undefined,
    };
    return (
      <ToolsContext value={tools}>
        <div style={{ width: 300, background: '#ededed' }}>
          <FieldControls fields={stepKind(kind)!.fields} values={{ ...now.steps[0].settings }} set={set} />
        </div>
      </ToolsContext>
    );
  }
  const screen = await put(<Controls />);
  return {
    settings: () => ({ ...newest.steps[0].settings }),
    labels,
    unmount: async () => screen.unmount(),
  };
}
