import { closeSync, existsSync, fsyncSync, openSync, readdirSync, writeSync } from "node:fs";
import { dirname, join } from "node:path";
import { PGlite, types, type PGliteOptions } from "@electric-sql/pglite";
import { NodeFS } from "@electric-sql/pglite/nodefs";

/** Puts what was written to an open file on the disk itself; throws where the disk refuses. */
type Flush = (fd: number) => void;

/** What of the database's own module this needs: the operations on its open files. */
interface FileModule {
  NODEFS: { stream_ops: { fsync?: (stream: { nfd: number }) => number } };
}

/**
 * PGlite's files with a flush that reaches the disk: as it ships it has none, and a power cut takes what was acknowledged
 * with it. A flush that fails ends the process, since nobody could tell any more what is kept and what is not.
 */
class FlushingFiles extends NodeFS {
  constructor(
    directory: string,
    private readonly flush: Flush,
  ) {
    super(directory);
  }

  override async init(...[database, options]: Parameters<NodeFS["init"]>): ReturnType<NodeFS["init"]> {
    const { emscriptenOpts } = await super.init(database, options);
    const putFlush = (module: unknown) => {
      (module as FileModule).NODEFS.stream_ops.fsync = ({ nfd }) => {
        try {
          this.flush(nfd);
        } catch (error) {
          // On a thread the usual exit would end the thread alone, and what is printed the usual way would come too late.
          writeSync(
            2,
            `The disk did not take what Tejado wrote (${(error as Error).message}). Tejado ends here, so that nothing is taken for kept that is not. See to the disk, then start it again.\n`,
          );
          process.kill(process.pid, "SIGKILL");
        }
        return 0;
      };
    };
    return { emscriptenOpts: { ...emscriptenOpts, preRun: [...(emscriptenOpts.preRun ?? []), putFlush] } };
  }
}

/**
 * PGlite's own start without "-F", which would switch flushing off; its glue has a real fsync, but only a stub of fdatasync. Its
 * own page cache is a quarter of the default: the system's holds the same files.
 */
const START_PARAMS = [
  ...PGlite.defaultStartParams.filter((param) => param !== "-F"),
  ...["-c", "wal_sync_method=fsync"],
  ...["-c", "shared_buffers=32MB"],
];

/** Bytes come as "\\x" and two digits each; the platform reads them several times faster than PGlite's own loop. */
const PARSERS = { [types.BYTEA]: (text: string) => new Uint8Array(Buffer.from(text.slice(2), "hex")) };
/** Likewise for writing. */
const SERIALIZERS = { [types.BYTEA]: (bytes: Uint8Array) => `\\x${Buffer.from(bytes).toString("hex")}` };

/** Opens or makes the database of a directory; what it acknowledges survives a power cut. */
export async function openDurable(
  directory: string,
  options: Pick<PGliteOptions, "loadDataDir"> = {},
  flush: Flush = fsyncSync,
): Promise<PGlite> {
  const isNew = !existsSync(join(directory, "PG_VERSION"));
  const database = await PGlite.create({
    ...options,
    parsers: PARSERS,
    serializers: SERIALIZERS,
    fs: new FlushingFiles(directory, flush),
    startParams: START_PARAMS,
  });
  // The files of a new database are written by another module, which flushes nothing.
  if (isNew) flushTree(directory, flush);
  return database;
}

/** Flushes every file and folder below a directory, itself and the entry in its parent. */
function flushTree(directory: string, flush: Flush): void {
  for (const entry of readdirSync(directory, { withFileTypes: true, recursive: true }))
    if (entry.isFile() || entry.isDirectory()) flushPath(join(entry.parentPath, entry.name), flush);
  flushPath(directory, flush);
  flushPath(dirname(directory), flush);
}

function flushPath(path: string, flush: Flush): void {
  const fd = openSync(path, "r");
  try {
    flush(fd);
  } finally {
    closeSync(fd);
  }
}
