import { spawn, spawnSync } from 'node:child_process';

/** Hosts of a studio on this machine: network namespaces of their own, joined by a switch that leads nowhere else. */

const SWITCH = 'lampwash-switch';

function ip(...args) {
  const { status, stderr } = spawnSync('ip', args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(`ip ${args.join(' ')}: ${stderr.trim()}`);
}

/** Makes hosts by their names; each gets an address, 10.77.0.1 the first. Gives the addresses, ways in, and the way to end all. */
export function makeHosts(names) {
  const made = [];
  const end = () => {
    for (const name of made.reverse()) spawnSync('ip', ['netns', 'del', name]);
  };
  const addresses = {};
  try {
    ip('netns', 'add', SWITCH);
    made.push(SWITCH);
    ip('-n', SWITCH, 'link', 'add', 'bridge', 'type', 'bridge');
    ip('-n', SWITCH, 'link', 'set', 'bridge', 'up');
    names.forEach((name, i) => {
      const host = `lampwash-${name}`;
      ip('netns', 'add', host);
      made.push(host);
      ip('link', 'add', 'eth0', 'netns', host, 'type', 'veth', 'peer', 'name', `port${i}`, 'netns', SWITCH);
      ip('-n', SWITCH, 'link', 'set', `port${i}`, 'master', 'bridge');
      ip('-n', SWITCH, 'link', 'set', `port${i}`, 'up');
      addresses[name] = `10.77.0.${i + 1}`;
      ip('-n', host, 'addr', 'add', `${addresses[name]}/24`, 'dev', 'eth0');
      ip('-n', host, 'link', 'set', 'eth0', 'up');
      ip('-n', host, 'link', 'set', 'lo', 'up');
    });
  } catch (error) {
    end();
    throw error;
  }
  const within = (name, command, args) => ['ip', ['netns', 'exec', `lampwash-${name}`, command, ...args]];
  return {
    addresses,
    end,
    /** Starts a program on a host; on one core of the machine where that is given. */
    start(name, command, args, { env = {}, core, ...options } = {}) {
      const pinned =
        core === undefined ? [command, args] : ['taskset', ['-c', String(core), command, ...args]];
      const [program, list] = within(name, ...pinned);
      return spawn(program, list, {
        stdio: ['ignore', 'pipe', 'inherit'],
        env: { ...process.env, ...env },
        ...options,
      });
    },
  };
}

/** Resolves when a program has said something; rejects when it ends before. */
export const said = (child, text) =>
  new Promise((done, fail) => {
    let all = '';
    child.stdout.on('data', data => {
      all += data;
      if (all.includes(text)) done(all);
    });
    child.once('exit', code => fail(new Error(`ended with ${code} before it said “${text}”: ${all}`)));
  });

/** Ends a program by its number, and waits for that. */
export const ended = (child, signal = 'SIGTERM') =>
  new Promise(done => {
    if (child.exitCode !== null || child.signalCode !== null) return done();
    child.once('exit', done);
    child.kill(signal);
  });
