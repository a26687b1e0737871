// Keeps a program running: starts it again when it ends, or answers nothing. Node built-ins only.
import { spawn } from 'node:child_process';
import { ROOT } from './pg.mjs';
import { log } from './setup.mjs';

/** ended in a way that another try would not change */
const NOT_AGAIN = 3;
const FIRST_WAIT_MS = 100;
const LONGEST_WAIT_MS = 5000;
/** nobody whose run is open waits longer than this */
const LONGEST_IN_A_RUN_MS = 800;
/** a program that lived so long has not failed again */
const LIVED_MS = 30_000;
const ASK_EVERY_MS = 2000;
const ANSWER_WITHIN_MS = 10_000;
const KILL_AFTER_MS = 8000;

/**
 * A program as a child that is started again whenever it ends by itself, waiting longer each time, and never given up.
 * @param {{ name: string, args: string[], env?: object, asks?: boolean, onMessage?: (m: any) => void, onGivenUp: () => void }} program
 *   asks: it answers over ipc; one that does not is killed and started again
 */
export function keepRunning({ name, args, env = {}, asks = false, onMessage, onGivenUp }) {
  let child = null;
  let stopping = null;
  let wait_ms = FIRST_WAIT_MS;
  let timer;
  let asked_ms = 0;
  let answered_ms = 0;
  let openRuns = 0;

  const launch = () => {
    const since = performance.now();
    answered_ms = 0;
    child = spawn(process.execPath, ['--enable-source-maps', ...args], {
      cwd: ROOT,
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'], // over ipc a child notices when this process is killed
      env: { ...process.env, NODE_ENV: 'production', ...env },
    });
    const mine = child;
    child.on('error', (error) => log(`the ${name}: ${error.message}`));
    child.on('message', (message) => {
      if (message?.ready || message?.pong !== undefined) answered_ms = performance.now();
      if (message?.openRuns !== undefined) openRuns = message.openRuns;
      onMessage?.(message);
    });
    child.on('exit', (code, signal) => {
      if (mine !== child) return;
      child = null;
      if (stopping) return stopping();
      if (code === NOT_AGAIN && openRuns === 0) {
        log(`the ${name} ended and is not started again; see above`);
        return onGivenUp();
      }
      if (performance.now() - since > LIVED_MS) wait_ms = FIRST_WAIT_MS;
      const now_ms = openRuns > 0 ? Math.min(wait_ms, LONGEST_IN_A_RUN_MS) : wait_ms;
      log(`the ${name} ended (${signal ?? code}); starting it again${now_ms > 1000 ? ` in ${now_ms / 1000} s` : ''}`);
      timer = setTimeout(launch, now_ms);
      wait_ms = Math.min(2 * wait_ms, LONGEST_WAIT_MS);
    });
  };

  const watchdog = setInterval(() => {
    if (!asks || !child?.connected || answered_ms === 0) return;
    if (asked_ms > answered_ms && performance.now() - answered_ms > ANSWER_WITHIN_MS) {
      log(`the ${name} has answered nothing for ${ANSWER_WITHIN_MS / 1000} s`);
      child.kill('SIGKILL');
      return;
    }
    asked_ms = performance.now();
    child.send({ ping: 1 }, () => undefined);
  }, ASK_EVERY_MS);
  launch();

  return {
    get pid() {
      return child?.pid ?? null;
    },
    /** A new bundle is there: the old process has given back its ports before the next one begins. */
    restart: () => {
      wait_ms = FIRST_WAIT_MS;
      child?.kill('SIGTERM');
    },
    /** Ends it politely, then not. */
    stop: () =>
      new Promise((resolve) => {
        clearInterval(watchdog);
        clearTimeout(timer);
        stopping = resolve;
        if (!child) return resolve();
        child.kill('SIGTERM');
        setTimeout(() => child?.kill('SIGKILL'), KILL_AFTER_MS).unref();
      }),
  };
}
