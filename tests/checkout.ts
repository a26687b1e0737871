import { execFileSync } from 'node:child_process';
import { cpSync, existsSync, mkdirSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

const BUILT = ['web/dist', 'server/dist', 'standin/dist', 'cli/dist'];

/**
 * A checkout of its own: a copy of the tracked files beside the packages that are installed already.
 * @param bare without what was built: whoever starts it there builds it
 */
export class Checkout {
  readonly dir: string;

  constructor(root: string, { bare = false } = {}) {
    this.dir = mkdtempSync(path.join(tmpdir(), 'rouse-start-'));
    const tracked = execFileSync('git', ['ls-files', '-co', '--exclude-standard'], { cwd: root, encoding: 'utf8' })
      .split('\n')
      .filter(Boolean);
    for (const file of tracked) {
      mkdirSync(path.join(this.dir, path.dirname(file)), { recursive: true });
      cpSync(path.join(root, file), path.join(this.dir, file));
    }
    if (!bare)
      for (const dir of BUILT)
        if (existsSync(path.join(root, dir)))
          cpSync(path.join(root, dir), path.join(this.dir, dir), { recursive: true });
    // a workspace keeps versions of its own where the root has another one
    for (const of of ['.', 'core', 'server', 'standin', 'cli', 'web']) {
      const packages = path.join(root, of, 'node_modules');
      if (existsSync(packages)) symlinkSync(packages, path.join(this.dir, of, 'node_modules'));
    }
    execFileSync('chmod', ['755', this.dir]); // the database's own user must reach its folder
  }

  /** Programs of this checkout that are alive, databases included, by a word of their command line. */
  alive(word: string): number[] {
    return execFileSync(
      'sh',
      ['-c', `ps -eo pid,args | grep -F '${this.dir}' | grep -F '${word}' | grep -v grep || true`],
      { encoding: 'utf8' },
    )
      .split('\n')
      .filter(Boolean)
      .map((line) => Number(line.trim().split(' ')[0]));
  }

  /** The postmaster of this checkout: the process that the lock file of its cluster names. */
  postmaster(): number {
    const found = execFileSync(
      'sh',
      ['-c', `cat $(find '${this.dir}/.local' /var/lib/rouse* -name postmaster.pid 2>/dev/null) /dev/null | head -1`],
      { encoding: 'utf8' },
    );
    return Number(found.split('\n')[0]);
  }

  remove(): void {
    rmSync(this.dir, { recursive: true, force: true, maxRetries: 5 });
  }
}
