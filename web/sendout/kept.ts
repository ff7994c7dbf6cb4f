import { sendOutSettings, type SendOutSettings } from '../../contract/send-outs';

/** The settings used last in this browser. */

const KEY = 'lampwash.send-out';

export function lastSettings(): SendOutSettings {
  try {
    const { success, data } = sendOutSettings.safeParse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
    if (success) return data;
  } catch {
    // What is there is no JSON.
  }
  return sendOutSettings.parse({});
}

export function rememberSettings(settings: SendOutSettings): void {
  localStorage.setItem(KEY, JSON.stringify(settings));
}
