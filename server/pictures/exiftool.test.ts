import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { exiftool } from './exiftool';

let folder: string;
const at = (name: string) => join(folder, name);
const file = (name: string) =>
  sharp({ create: { width: 8, height: 6, channels: 3, background: '#806040' } })
    .jpeg()
    .toFile(at(name));

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'lampwash-exif-'));
  await file('a.jpg');
  await writeFile(at('text.jpg'), 'not a picture');
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const artist = async (path: string) => (await exiftool(['-s3', '-Artist', path])).toString().trim();

describe('ExifTool', () => {
  it('writes and reads many files, each answer its own', async () => {
    const names = Array.from({ length: 12 }, (_, i) => `many-${i}.jpg`);
    await Promise.all(names.map(file));
    await Promise.all(
      names.map(name => exiftool(['-overwrite_original', '-quiet', `-Artist=By ${name}`, at(name)])),
    );
    expect(await Promise.all(names.map(name => artist(at(name))))).toEqual(names.map(name => `By ${name}`));
  });

  it('gives bytes as they stand in the file', async () => {
    const plain = { create: { width: 8, height: 6, channels: 3 as const, background: '#806040' } };
    await sharp(plain).withIccProfile('p3').jpeg().toFile(at('profile.jpg'));
    const { icc } = await sharp(at('profile.jpg')).metadata();
    const read = await exiftool(['-b', '-ICC_Profile', at('profile.jpg')]);
    expect(icc!.length).toBeGreaterThan(100);
    expect(Buffer.compare(read, icc!)).toBe(0);
  });

  it('says what is wrong with a file, and goes on with the next', async () => {
    const problem = await exiftool(['-Artist=x', at('text.jpg')]).catch(
      (error: { stderr: string }) => error.stderr,
    );
    expect(problem).toMatch(/Not a valid JPG|File format error/);
    await expect(exiftool(['-Artist', at('missing.jpg')])).rejects.toThrow(/not found/);
    expect(await artist(at('a.jpg'))).toBe('');
  });

  it('takes values and paths that no line of options can hold', async () => {
    await file('# odd name.jpg');
    await exiftool(['-overwrite_original', '-Artist= spaced', at('# odd name.jpg')]);
    expect(await artist(at('# odd name.jpg'))).toBe('spaced');
    await exiftool(['-overwrite_original', '-Artist=two\nlines', at('a.jpg')]);
    expect(await artist(at('a.jpg'))).toBe('two.lines');
    await exiftool(['-overwrite_original', '-Artist=', at('a.jpg')]);
  });

  it('answers no more than is asked for, and is there again after that', async () => {
    await expect(exiftool(['-j', at('a.jpg')], 100)).rejects.toThrow(/more than was asked for/);
    expect(await artist(at('a.jpg'))).toBe('');
  });

  it('sees nothing of what surrounds the server', async () => {
    // The test run's own database is named in what surrounds this process.
    expect(Object.keys(process.env).some(name => name.startsWith('LAMPWASH_'))).toBe(true);
    await artist(at('a.jpg'));
    const children = (await readFile(`/proc/${process.pid}/task/${process.pid}/children`, 'utf8')).split(' ');
    const around = [];
    for (const pid of children.filter(Boolean)) {
      const [command, env] = await Promise.all(
        ['cmdline', 'environ'].map(name => readFile(`/proc/${pid}/${name}`, 'utf8').catch(() => '')),
      );
      if (command.includes('exiftool')) around.push(env);
    }
    expect(around.length).toBeGreaterThan(0);
    for (const env of around) expect(env).not.toContain('LAMPWASH_');
  });
});
