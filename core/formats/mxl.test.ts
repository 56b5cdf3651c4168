import { strToU8, unzipSync, zipSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newSong } from '../song';
import { toMusicXml } from './musicxml';
import { toMxl } from './mxl';
import { readMusicXml } from './readMusicXml';
import { readMxl } from './readMxl';

const song = newSong({
  title: 'Tallow & Thyme',
  instrument: 'guitar',
  progression: 'Verse:\nG | Em | C . D . | G x2',
});

describe('compressed MusicXML', () => {
  it('reads back as what is not compressed does', () => {
    expect(readMxl(toMxl(song))).toEqual(readMusicXml(toMusicXml(song)));
  });

  it('is a ZIP file whose first bytes say what it is, and the same each time', () => {
    const bytes = toMxl(song);
    expect(new TextDecoder('latin1').decode(bytes.subarray(0, 80))).toMatch(
      /^PK[^]*mimetypeapplication\/vnd\.recordare\.musicxml/,
    );
    expect(toMxl(song)).toEqual(bytes);
    expect(bytes.length).toBeLessThan(toMusicXml(song).length / 4);
    expect(Object.keys(unzipSync(bytes))).toEqual([
      'mimetype',
      'META-INF/container.xml',
      'score.musicxml',
    ]);
  });

  it('of others is read whatever its score is called', () => {
    const others = zipSync({
      'META-INF/container.xml': strToU8(
        "<container><rootfiles><rootfile full-path='scores/one.xml'/></rootfiles></container>",
      ),
      'scores/one.xml': strToU8(toMusicXml(song)),
    });
    expect(readMxl(others)).toEqual(readMusicXml(toMusicXml(song)));
  });

  it('that holds no score, or is cut short, is told so', () => {
    const message = (bytes: Uint8Array) => {
      const answer = readMxl(bytes);
      return 'problem' in answer ? answer.problem.message : null;
    };
    expect(message(zipSync({ 'a.txt': strToU8('hello') }))).toMatch(/holds no score/);
    expect(message(toMxl(song).subarray(0, 300))).toMatch(/broken, or was cut short/);
    expect(message(strToU8('PK'))).toMatch(/broken/);
  });

  it('unpacks nothing but its score, and that only up to a size', () => {
    const container = (name: string) =>
      strToU8(`<container><rootfiles><rootfile full-path="${name}"/></rootfiles></container>`);
    const much = new Uint8Array(21_000_000);
    const message = (bytes: Uint8Array) => {
      const answer = readMxl(bytes);
      return 'problem' in answer ? answer.problem.message : null;
    };
    const large = zipSync({ 'META-INF/container.xml': container('a.xml'), 'a.xml': much });
    expect(message(large)).toMatch(/holds no score/);
    const beside = zipSync({
      'META-INF/container.xml': container('a.xml'),
      'a.xml': strToU8(toMusicXml(song)),
      'other.bin': much,
    });
    expect(message(beside)).toBeNull();
    for (const name of ['__proto__', 'constructor', '../../score.xml']) {
      const odd = zipSync({ 'META-INF/container.xml': container(name) });
      expect(message(odd)).toMatch(/holds no score/);
    }
  });

  it('never fails, whatever bytes are in it', () => {
    const bytes = toMxl(song);
    fc.assert(
      fc.property(fc.nat(bytes.length - 1), fc.nat(255), (at, value) => {
        const changed = Uint8Array.from(bytes);
        changed[at] = value;
        expect(() => readMxl(changed)).not.toThrow();
      }),
      { numRuns: 200 },
    );
  });
});
