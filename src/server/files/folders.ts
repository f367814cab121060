import { randomBytes } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { link, mkdir, open, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { join, parse } from 'node:path';
import { Readable } from 'node:stream';
import { AvrixError } from '../../core/errors';
import { folderBeginning } from '../../core/connections/folder';

/** A file that was written for another program. */
export interface WrittenFile {
  folder: string;
  name: string;
  bytes: number;
  at: Date;
}
export type Folders = ReturnType<typeof makeFolders>;

/** The folder that an account's address names; null where it is an address on the network. */
export const folderOf = (endpoint: string): string | null =>
  endpoint.startsWith(folderBeginning) ? endpoint.slice(folderBeginning.length) : null;

/** Files that are listed, the newest first. */
const mostListed = 200;
const isName = (text: string): boolean => /^[\w-][\w.-]{0,120}$/.test(text);

/**
 * Folders on this machine that other programs take files from, each business's apart from the others'. A file appears once it
 * is whole, since it is written under another name first, and none takes the place of another.
 *
 * @param root where they all are
 */
export function makeFolders(root: string) {
  return {
    /** @param path the file's name, after slashes which it does not keep. @returns that name */
    async put(businessId: string, folder: string, path: string, text: string): Promise<string> {
      const name =
        path
          .replace(/^[./]+/, '')
          .replace(/[^\w.-]+/g, '-')
          .slice(0, 120) || 'rows.csv';
      const within = join(root, businessId, folder);
      await mkdir(within, { recursive: true });
      const unfinished = join(within, `.${randomBytes(6).toString('hex')}`);
      const file = await open(unfinished, 'wx');
      try {
        await file.writeFile(text);
        await file.sync();
      } catch (error) {
        await rm(unfinished, { force: true });
        throw error;
      } finally {
        await file.close();
      }
      try {
        return await nameOnce(unfinished, within, name);
      } finally {
        await rm(unfinished, { force: true });
      }
    },

    /** Why no file can be put into a folder; '' where it can. */
    async whyNot(businessId: string, folder: string): Promise<string> {
      const probe = join(root, businessId, folder, `.${randomBytes(6).toString('hex')}`);
      try {
        await mkdir(join(root, businessId, folder), { recursive: true });
        await writeFile(probe, '');
        await rm(probe);
        return '';
      } catch (error) {
        return (error as NodeJS.ErrnoException).code ?? 'not known why';
      }
    },

    /** What is there, the newest first. */
    async list(businessId: string): Promise<WrittenFile[]> {
      const folders = await readdir(join(root, businessId)).catch(noneIfMissing);
      const found = await Promise.all(
        folders.map(async (folder) => {
          const names = (await readdir(join(root, businessId, folder))).filter((name) => !name.startsWith('.'));
          // Names begin with their time.
          const newest = names.sort().reverse().slice(0, mostListed);
          return Promise.all(
            newest.map(async (name) => {
              const { size, mtime } = await stat(join(root, businessId, folder, name));
              return { folder, name, bytes: size, at: mtime };
            }),
          );
        }),
      );
      return found
        .flat()
        .sort((a, b) => b.at.getTime() - a.at.getTime())
        .slice(0, mostListed);
    },

    /** One of them as a download. @throws AVX_NOT_FOUND */
    async read(businessId: string, folder: string, name: string): Promise<Response> {
      const path = join(root, businessId, folder, name);
      const isThere = isName(folder) && isName(name) && (await stat(path).catch(() => null))?.isFile();
      if (!isThere) throw new AvrixError('AVX_NOT_FOUND', { what: 'file' });
      return new Response(Readable.toWeb(createReadStream(path)) as unknown as BodyInit, {
        headers: {
          'content-type': 'text/csv; charset=utf-8',
          'content-disposition': `attachment; filename="${name}"`,
        },
      });
    },
  };
}

/** Gives a file its name, or one like it where another has that. @returns the name */
async function nameOnce(file: string, folder: string, name: string): Promise<string> {
  try {
    await link(file, join(folder, name));
    return name;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    const { name: stem, ext } = parse(name);
    return nameOnce(file, folder, `${stem}-${randomBytes(3).toString('hex')}${ext}`);
  }
}

function noneIfMissing(error: NodeJS.ErrnoException): string[] {
  if (error.code === 'ENOENT') return [];
  throw error;
}
