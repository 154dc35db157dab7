import { MemoryFlash } from '#bench/memoryFlash.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { descriptorOf, inspectImage, writeImage } from '#core/formats/firmwareImage.ts';
import type { Random } from '#core/math/random.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { crc32 } from '#core/wire/crc32.ts';
import { encodeFrame, FrameReader } from '#core/wire/frames.ts';
import { BLOCK_BYTES, ImageRegion } from '#firmware/imageRegion.ts';
import { Loader } from '#firmware/loader.ts';
import { FlashPages } from '#firmware/pages.ts';
import { type Attack, answers, oneOf, whole } from './attack.ts';

/** The power goes at any byte of any write: the board has what was before, or what was to come. */
const pageCuts: Attack = {
  name: 'power cuts of a write',
  cases: 10_000,
  begin() {
    const flash = new MemoryFlash();
    let held: unknown = null;
    return (random) =>
      answers(() => {
        const pages = new FlashPages<Values>(flash);
        if (JSON.stringify(pages.load()) !== JSON.stringify(held))
          return 'a board holds something else than before';
        const next = { n: whole(random, 1e6), text: 'x'.repeat(whole(random, 600)) };
        pages.begin(next);
        if (pages.step(whole(random, 760))) held = next;
        const again = new FlashPages<Values>(flash).load();
        if (JSON.stringify(again) === JSON.stringify(held)) return null;
        return `the power went and the board holds ${JSON.stringify(again)?.slice(0, 80)}`;
      });
  },
};

function imageOf(random: Random, target: string, version: string, bytes: number) {
  const code = Uint8Array.from({ length: bytes }, () => whole(random, 256));
  const made = inspectImage(new TextEncoder().encode(writeImage(code, { product: 'Pfad', target, version })));
  if (!made.ok) throw new Error(made.why);
  return made;
}

/** The power goes in the middle of a flash, the plan lies, the image is another's: only what is whole and right starts. */
const flashCuts: Attack = {
  name: 'power cuts and lies of a flash',
  cases: 1000,
  begin() {
    const size = 24 * BLOCK_BYTES;
    const region = new ImageRegion(size);
    return (random) =>
      answers(() => {
        const bytes = 1000 + whole(random, 6000);
        const { bytes: image, info } = imageOf(
          random,
          oneOf(random, ['fell-f7', 'fell-f7', 'cobble-f4-wing']),
          '3.1',
          bytes,
        );
        const plan = {
          ...info,
          target: 'fell-f7',
          ...(random.uniform() < 0.2 ? { size: whole(random, 400) } : {}),
          ...(random.uniform() < 0.1 ? { crc: whole(random, 2 ** 31) } : {}),
          ...(random.uniform() < 0.1 ? { version: '9.9' } : {}),
        };
        let id = 0;
        for (let life = 0; life < 3; life++) {
          let startWanted = false;
          const loader = new Loader(
            region,
            [new MemoryFlash()],
            {
              board: 'Fell F7',
              revision: 'A',
              target: fellF7Model.target,
              serial: 'x',
              restartCause: 'power on',
            },
            () => {},
          );
          // What the board says of its order.
          let acts = { key: 0, after: 0 };
          const hear = new FrameReader((m) => {
            const a = (m as { a?: { acts?: typeof acts } }).a;
            if (a?.acts) acts = a.acts;
          });
          Object.assign(loader, { send: (b: Uint8Array) => hear.push(b) });
          const ask = (m: object, act = false) => {
            acts = { ...acts, after: acts.after + (act ? 1 : 0) };
            loader.reader.push(
              encodeFrame({ id: id++, ...m, ...(act ? { act: [acts.key, acts.after] } : {}) }),
            );
          };
          ask({ t: 'hello', link: 1 });
          ask({ t: 'loader-begin', plan, wipe: false }, true);
          const steps = whole(random, 2 * size);
          for (let k = 0; k < steps && region.toErase > 0; k++) loader.step(0.001);
          for (let at = 0; at < image.length; at += BLOCK_BYTES) {
            const block = image.slice(at, at + BLOCK_BYTES);
            ask({ t: 'loader-block', at, bytes: block, crc: crc32(block) });
            for (let k = 0; k < 30; k++) loader.step(0.001);
            if (random.uniform() < 0.03) break;
          }
          ask({ t: 'loader-verify' });
          ask({ t: 'loader-start' }, true);
          startWanted = loader.startWanted;
          if (startWanted) {
            const said = descriptorOf(region.bytes.subarray(0, region.plan?.size ?? 0));
            if (said?.target !== 'fell-f7') return `an image for ${said?.target} was started`;
            if (!region.correct) return 'an image that is not whole was started';
          }
        }
        return null;
      });
  },
};

export const powerAttacks = [pageCuts, flashCuts];
