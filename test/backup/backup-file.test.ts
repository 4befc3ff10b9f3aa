import { randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import {
  BackupError,
  keysInFile,
  newBackupKey,
  openBackup,
  packBackup,
  readBackup,
  writeBackup,
  type BackupManifest,
} from '@pragmatica/backup';
import { expect } from 'chai';
import fc from 'fast-check';
import { extract, pack } from 'tar-stream';
import { propertyRuns } from '../support/property-runs.js';

type Tables = Record<string, string>;

function manifestOf(tables: Tables, more: Partial<BackupManifest> = {}): BackupManifest {
  return {
    format: 'pragmatica-backup',
    form: 1,
    id: randomUUID(),
    madeAt: '2026-12-01T03:17:00.000Z',
    version: '0.1.0',
    migrations: ['First'],
    tables: Object.entries(tables).map(([name, text]) => ({
      name,
      columns: ['id', 'name'],
      rows: text.split('\n').length - 1,
      last: null,
    })),
    trail: { number: 0, hash: '0'.repeat(64) },
    sites: [],
    hasKey: true,
    ...more,
  };
}

async function* cut(bytes: Uint8Array, size: number): AsyncGenerator<Uint8Array> {
  await Promise.resolve();
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}

async function collect(bytes: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const chunks: Uint8Array[] = [];
  for await (const chunk of bytes) chunks.push(chunk);
  return Buffer.concat(chunks);
}

async function written(tables: Tables, size = 1_000, manifest = manifestOf(tables)): Promise<Buffer> {
  async function* all() {
    for (const [name, text] of Object.entries(tables)) {
      await Promise.resolve();
      yield { name, rows: cut(Buffer.from(text), size) };
    }
  }
  return collect(writeBackup(manifest, 'a key', all()));
}

interface Read {
  readonly manifest: BackupManifest | undefined;
  readonly key: string | undefined;
  readonly tables: Tables;
  readonly isWhole: boolean;
}

async function read(bytes: AsyncIterable<Uint8Array>): Promise<Read> {
  let manifest: BackupManifest | undefined;
  let key: string | undefined;
  let isWhole = false;
  const chunks = new Map<string, Uint8Array[]>();
  for await (const item of readBackup(bytes)) {
    if (item.type === 'manifest') {
      manifest = item.manifest;
      for (const { name } of manifest.tables) chunks.set(name, []);
    } else if (item.type === 'key') key = item.key;
    else if (item.type === 'rows') chunks.get(item.table.name)!.push(Buffer.from(item.bytes));
    else isWhole = true;
  }
  const tables = Object.fromEntries([...chunks].map(([name, all]) => [name, Buffer.concat(all).toString()]));
  return { manifest, key, tables, isWhole };
}

async function refusal(bytes: AsyncIterable<Uint8Array>, keys: readonly string[] = []): Promise<BackupError> {
  try {
    await read(await openBackup(bytes, keys));
  } catch (error) {
    expect(error).to.be.instanceOf(BackupError, String(error));
    return error as BackupError;
  }
  return expect.fail('It was read as if it were whole.');
}

/** More than one piece of a megabyte. */
const LONG = `1\t${'tide '.repeat(400)}\n`.repeat(1_500);
const TABLES: Tables = { site: '1\tMill\n2\tPier\\nHouse\n', empty: '', long: LONG };

describe('the file of a backup', function () {
  this.timeout(60_000);

  it('gives back what was written, however it comes', async () => {
    for (const size of [512, 1_000, 65_536]) {
      const { manifest, key, tables, isWhole } = await read(cut(await written(TABLES), size));
      expect(tables).to.deep.equal(TABLES);
      expect({ key, isWhole, at: manifest?.madeAt }).to.deep.equal({
        ...{ key: 'a key', isWhole: true },
        at: '2026-12-01T03:17:00.000Z',
      });
    }
    const line = fc.string().map((text) => `${text.replaceAll('\n', '')}\n`);
    await fc.assert(
      fc.asyncProperty(
        fc.dictionary(
          fc.stringMatching(/^[a-z_]{1,10}$/),
          fc.array(line).map((all) => all.join('')),
          {
            minKeys: 1,
          },
        ),
        fc.integer({ min: 1, max: 700 }),
        async (tables, size) => {
          expect((await read(cut(await written(tables, size), size * 3))).tables).to.deep.equal(tables);
        },
      ),
      propertyRuns(60),
    );
  });

  it('is a tar archive in pieces of a megabyte, which any program for them reads', async () => {
    const names: string[] = [];
    const sizes: number[] = [];
    const tar = Readable.from(cut(await written(TABLES), 10_000), { objectMode: false }).pipe(extract());
    for await (const entry of tar) {
      names.push(entry.header.name);
      sizes.push(entry.header.size ?? 0);
      entry.resume();
    }
    expect(names).to.deep.equal([
      ...['manifest.json', 'secret.key', 'tables/site/000001.tsv'],
      ...['tables/long/000001.tsv', 'tables/long/000002.tsv', 'tables/long/000003.tsv'],
      'end.json',
    ]);
    expect(Math.max(...sizes)).to.be.below(1_100_000);
  });

  it('is read packed and encrypted, for each of its keys and no other', async () => {
    const [mine, yours, other] = [await newBackupKey(), await newBackupKey(), await newBackupKey()];
    const plain = await written(TABLES);
    const packed = await collect(await packBackup(cut(plain, 10_000), []));
    expect(packed.length).to.be.below(plain.length / 20);
    expect((await read(await openBackup(cut(packed, 777), []))).tables).to.deep.equal(TABLES);
    const sealed = await collect(await packBackup(cut(plain, 10_000), [mine.recipient, yours.recipient]));
    expect(sealed.toString('latin1', 0, 21)).to.equal('age-encryption.org/v1');
    for (const { key } of [mine, yours])
      expect((await read(await openBackup(cut(sealed, 777), [other.key, key]))).tables).to.deep.equal(TABLES);
    expect((await refusal(cut(sealed, 777), [other.key])).code).to.equal('wrongKey');
    expect((await refusal(cut(sealed, 777))).code).to.equal('needsKey');
    expect(sealed.includes('Mill')).to.equal(false);
  });

  it('is not taken for whole when it was cut off, wherever', async () => {
    const { key, recipient } = await newBackupKey();
    const plain = await written({ site: TABLES['site']!, long: LONG.slice(0, 200_100) });
    for (const [bytes, margin] of [
      // What stands after the last entry is nothing but zeros.
      [plain, 1_600],
      [await collect(await packBackup(cut(plain, 10_000), [])), 1],
      [await collect(await packBackup(cut(plain, 10_000), [recipient])), 1],
    ] as const)
      await fc.assert(
        fc.asyncProperty(fc.integer({ min: 0, max: bytes.length - margin }), async (length) => {
          await refusal(cut(bytes.subarray(0, length), 5_000), [key]);
        }),
        propertyRuns(60),
      );
    const cutOff = await refusal(cut(plain.subarray(0, 100_000), 5_000));
    expect(cutOff.message).to.equal(
      'The backup ends too early, in the table long: it was not copied to its end.',
    );
  });

  it('is not taken for whole when a byte of a table is another', async () => {
    const { key, recipient } = await newBackupKey();
    const text = `1\t${'x'.repeat(5_000)}\n`;
    const plain = await written({ site: text });
    const from = plain.indexOf('1\txxx');
    const packed = await collect(await packBackup(cut(plain, 10_000), [recipient]));
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 0, max: text.length - 2 }), async (place) => {
        const changed = Buffer.from(plain);
        changed[from + place]! ^= 1;
        expect((await refusal(cut(changed, 5_000))).code).to.equal('damaged');
      }),
      propertyRuns(60),
    );
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 0, max: packed.length - 1 }), async (place) => {
        const changed = Buffer.from(packed);
        changed[place]! ^= 1;
        await refusal(cut(changed, 5_000), [key]);
      }),
      propertyRuns(60),
    );
  });

  it('says of anything else that it is no backup, and of a newer form that it is newer', async () => {
    const tar = pack();
    tar.entry({ name: 'letter.txt' }, 'Dear harbour master');
    tar.finalize();
    for (const bytes of [Buffer.alloc(0), Buffer.from('hello'), Buffer.alloc(9_000, 65), await collect(tar)])
      expect((await refusal(cut(bytes, 512))).code).to.equal('notBackup');
    const newer = await written({ site: '1\tMill\n' }, 100, manifestOf({ site: '1\tMill\n' }, { form: 2 }));
    expect((await refusal(cut(newer, 512))).message).to.include('is of form 2');
  });

  it('refuses tables that the manifest does not name, in another order, or with other rows', async () => {
    for (const [tables, said] of [
      [{ site: '1\tMill\n', extra: '1\tx\n' }, { site: '1\tMill\n' }],
      [
        { b: '1\tx\n', a: '1\tx\n' },
        { a: '1\tx\n', b: '1\tx\n' },
      ],
      [{ site: '1\tMill\n' }, { site: '1\tMill\n2\tPier\n' }],
    ] as [Tables, Tables][])
      expect((await refusal(cut(await written(tables, 100, manifestOf(said)), 512))).code).to.equal(
        'damaged',
      );
  });

  it('has keys in files as other programs for age write them', async () => {
    const { key, recipient } = await newBackupKey();
    expect(key).to.match(/^AGE-SECRET-KEY-1[0-9A-Z]{58}$/);
    expect(recipient).to.match(/^age1[0-9a-z]{58}$/);
    expect(keysInFile(`# created: today\n# public key: ${recipient}\n${key}\n\n`)).to.deep.equal([key]);
    expect(() => keysInFile('# nothing')).to.throw(BackupError, 'There is no key in this file');
    const pass = packBackup(cut(Buffer.alloc(1), 1), ['age1nope']);
    expect(await pass.catch((error: unknown) => (error as Error).message)).to.include('age1nope');
  });
});
