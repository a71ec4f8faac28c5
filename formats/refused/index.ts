/**
 * A file, or something in it, that is not taken. The message says where, what was expected there and what was found, without a full stop;
 * `todo` is a sentence that says what to do about it. A reader that refuses a whole file throws one of these and nothing else.
 */
export class FileRefused extends Error {
  readonly todo: string;

  constructor(message: string, { todo, ...options }: ErrorOptions & { todo: string }) {
    super(message, options);
    this.todo = todo;
  }

  /** All of it for a person; whoever knows the file's name puts it before. */
  get told(): string {
    return `${this.message}. ${this.todo}`;
  }
}

/** What a reader's own refusals are made from: with what is usually to be done, unless the place that throws knows better. */
export const refusedUsually = (usualTodo: string) =>
  class extends FileRefused {
    constructor(message: string, { todo = usualTodo, ...options }: ErrorOptions & { todo?: string } = {}) {
      super(message, { todo, ...options });
    }
  };

/** What went wrong, as a sentence or two: all of a refusal, of anything else its message. */
export function toldOf(error: unknown): string {
  if (error instanceof FileRefused) return error.told;
  const { message } = error as Error;
  return message.endsWith(".") ? message : `${message}.`;
}

/** Does work in a worker of the page, whose errors reach the page as words alone: a refusal with all that it tells. */
export function telling<T>(work: () => T): T {
  try {
    return work();
  } catch (error) {
    throw error instanceof FileRefused ? new Error(error.told, { cause: error }) : error;
  }
}
