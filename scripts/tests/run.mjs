import { spawn } from 'node:child_process';
import { root } from '../ensure.mjs';

/**
 * Runs a program in the root of the sources.
 * @param options.env beside that of this process
 * @param options.hold keeps what it prints, instead of showing it at once
 * @returns its exit code, and what was kept
 */
export function run(program, args, { env = {}, hold = false } = {}) {
  return new Promise(done => {
    let text = '';
    const child = spawn(program, args, {
      cwd: root,
      stdio: ['ignore', hold ? 'pipe' : 'inherit', hold ? 'pipe' : 'inherit'],
      env: { ...process.env, ...env },
    });
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', data => (text += data));
    child.once('close', code => done({ code: code ?? 1, text: text.trim() }));
    child.once('error', error => done({ code: 1, text: String(error) }));
  });
}
