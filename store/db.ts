/** Asks and tells a database in plain SQL; parameters are `$1`, `$2`, … */
export interface Queries {
  query<T = Record<string, unknown>>(sql: string, parameters?: unknown[]): Promise<{ rows: T[] }>;
  /** Several statements at once, without parameters; gives the rows of the last one. */
  exec(sql: string): Promise<Record<string, unknown>[]>;
}

/** The one database of a store, whichever driver stands behind it. */
export interface Db extends Queries {
  /** One transaction that may write: committed when `work` is done, rolled back when it throws. Throws NoRoom under the floor. */
  transaction<T>(work: (tx: Queries) => Promise<T>): Promise<T>;
  /** Reads everything as of one moment. */
  snapshot<T>(work: (tx: Queries) => Promise<T>): Promise<T>;
  /** Hears what `notify` says under a name, from this process or another; gives what ends it. */
  listen(channel: string, heard: (payload: string) => void): Promise<() => Promise<void>>;
  notify(channel: string, payload: string): Promise<void>;
  /** The whole database as one packed file, or null where a server keeps its own backups. */
  dump(): Promise<Uint8Array | null>;
  /** Settles when the thread that the database runs on has turned, whatever transaction is open; a server minds itself. */
  turns(): Promise<void>;
  close(): Promise<void>;
}

/** A database, and the directory beside it for uploads, exports and keys. */
export interface Store {
  /** Ask for it each time: a restore puts another in its place. */
  db: Db;
  directory: string;
  /** Whether the data stand on a PostgreSQL server, whose own tools back them up. */
  isOnServer: boolean;
  /** Why nothing more is written, in words; null while the disk has room. */
  roomProblem(): string | null;
  close(): Promise<void>;
}

/** Thrown when a change comes while the disk has too little room: nothing of it is kept, and reading goes on. */
export class NoRoom extends Error {
  constructor(freeBytes: number, floorBytes: number) {
    super(
      `The disk has ${megabytes(freeBytes)} MB left, and Tejado keeps nothing new under ${megabytes(floorBytes)} MB, so that what is kept stays whole. Make room and try again; nothing was kept of this change, and nothing before it is lost.`,
    );
    this.name = "NoRoom";
  }
}

const megabytes = (bytes: number) => Math.floor(bytes / 1024 / 1024);
