import type { DraftEdit, TypeDraft, TypeDraftRow } from '@rouse/core/contract';
import { ApiRefusal, getJson, postJson, putJson } from '../../../platform/api.ts';
import { readSetting, writeSetting } from '../../../platform/storage.ts';

/** after the last key that was pressed */
const KEEP_AFTER_MS = 300;
/** what others do is asked for so often */
const LOOK_EVERY_MS = 3000;

/** What one person wrote while another one did. */
export interface Conflict {
  file: string;
  mine: string;
  theirs: DraftEdit;
}

/** A draft as it stands on this page. */
export interface DraftNow {
  row: TypeDraftRow | null;
  folder: Readonly<Record<string, string>>;
  /** when the last change was kept, and by whom; null while one is on its way */
  kept: Pick<DraftEdit, 'by' | 'at'> | null;
  conflict: Conflict | null;
  trouble: string | null;
}

const NOTHING: DraftNow = { row: null, folder: {}, kept: null, conflict: null, trouble: null };
const wordsOf = (error: unknown): string => (error instanceof Error ? error.message : String(error));

/** Keeps a draft and its copy on the server alike: every change is kept at once, here until the server has it. */
export class DraftSync {
  now = NOTHING;
  private readonly id: string;
  private readonly told: () => void;
  private unsent: Record<string, string> = {};
  private readonly seen: Record<string, number> = {};
  private revision = -1;
  private sending: Promise<void> = Promise.resolve();
  private keepTimer: ReturnType<typeof setTimeout> | undefined;
  private lookTimer: ReturnType<typeof setInterval> | undefined;

  /** @param told what is now was changed */
  constructor(id: string, told: () => void) {
    this.id = id;
    this.told = told;
  }

  start(): void {
    const left = JSON.parse(readSetting(this.key) ?? '{}') as Record<string, string>;
    const fail = (error: unknown): void => this.set({ trouble: wordsOf(error) });
    this.look()
      .then(() => {
        // what a closed tab had not sent is written over what the server has
        this.unsent = left;
        this.set({ folder: { ...this.now.folder, ...left } });
        return this.send();
      })
      .catch(fail);
    this.lookTimer = setInterval(() => void this.look().catch(fail), LOOK_EVERY_MS);
  }

  stop(): void {
    clearInterval(this.lookTimer);
    clearTimeout(this.keepTimer);
    void this.send();
  }

  /** Somebody has written in this file since the draft was begun. */
  touched(file: string): boolean {
    return file in this.unsent || (this.seen[file] ?? 0) > 0;
  }

  change(file: string, text: string): void {
    this.unsent[file] = text;
    this.keepHere();
    this.set({ folder: { ...this.now.folder, [file]: text }, kept: null });
    clearTimeout(this.keepTimer);
    this.keepTimer = setTimeout(() => void this.send(), KEEP_AFTER_MS);
  }

  async undo(): Promise<void> {
    await this.send();
    await this.trying(async () => this.taken([await postJson<DraftEdit>(`/types/drafts/${this.id}/undo`, {})]));
  }

  /** Keeps mine, or takes theirs. */
  settle(mine: boolean): void {
    const { conflict } = this.now;
    if (!conflict) return;
    this.seen[conflict.file] = conflict.theirs.revision;
    this.set({ conflict: null, trouble: null });
    if (mine) return void this.send();
    delete this.unsent[conflict.file];
    this.keepHere();
    this.taken([conflict.theirs]);
  }

  /** @returns whether it was done */
  async act(what: 'review' | 'release' | 'reopen'): Promise<boolean> {
    await this.send();
    return this.trying(async () => {
      await postJson(`/types/drafts/${this.id}/${what}`, {});
      await this.look();
    });
  }

  private get key(): string {
    return `draft.${this.id}`;
  }

  private set(changed: Partial<DraftNow>): void {
    this.now = { ...this.now, ...changed };
    this.told();
  }

  private keepHere(): void {
    writeSetting(this.key, JSON.stringify(this.unsent));
  }

  private async trying(work: () => Promise<void>): Promise<boolean> {
    try {
      await work();
      return true;
    } catch (error) {
      this.set({ trouble: wordsOf(error) });
      return false;
    }
  }

  private async look(): Promise<void> {
    const draft = await getJson<TypeDraft>(`/types/drafts/${this.id}?since=${this.revision}`);
    this.set({ row: draft, trouble: null });
    this.taken(draft.edits);
  }

  private taken(edits: readonly DraftEdit[]): void {
    // an answer that was on its way for long knows less than this page does
    const fresh = edits.filter((e) => !(e.file in this.unsent) && e.revision > (this.seen[e.file] ?? -1));
    for (const e of fresh) this.seen[e.file] = e.revision;
    this.revision = Math.max(this.revision, ...edits.map((e) => e.revision));
    if (fresh.length === 0) return;
    const folder = { ...this.now.folder };
    for (const { file, text } of fresh) {
      if (text === null) delete folder[file];
      else folder[file] = text;
    }
    this.set({ folder, kept: fresh.toSorted((a, b) => b.revision - a.revision)[0]! });
  }

  private send(): Promise<void> {
    this.sending = this.sending.then(async () => {
      for (const [file, text] of Object.entries(this.unsent)) if (!(await this.sendFile(file, text))) return;
    });
    return this.sending;
  }

  private async sendFile(file: string, text: string): Promise<boolean> {
    try {
      const edit = await putJson<DraftEdit>(`/types/drafts/${this.id}/files`, { file, text, seen: this.seen[file] ?? 0 }); // oxfmt-ignore
      this.seen[file] = edit.revision;
      if (this.unsent[file] === text) delete this.unsent[file];
      this.set({ kept: edit, trouble: null });
      return true;
    } catch (error) {
      if (!(error instanceof ApiRefusal)) throw error;
      const theirs = (error.details as { edit?: DraftEdit } | null)?.edit;
      this.set({
        trouble: `${error.message} ${error.remedy}`,
        ...(theirs && { conflict: { file, mine: text, theirs } }),
      });
      return false;
    } finally {
      this.keepHere();
    }
  }
}
