import { beginnings, server } from './server';
import { afterEach, beforeEach, vi } from 'vitest';
import type { Shot } from '../api/client';
import { notices } from '../lib/notices.svelte';
import { ProjectState } from '../lib/project.svelte';

/** A project in a window, with some shots. */
export function project(shots: Shot[]): ProjectState {
  const made = new ProjectState('p');
  const first = beginnings(shots);
  made.apply(first);
  made.clock.begin(first.version);
  return made;
}

/** Each test begins with a server that was asked nothing, no notices, and a clock that can be moved. */
export function eachTestAfresh() {
  beforeEach(() => {
    server.reset();
    notices.all = [];
    vi.useFakeTimers({ shouldAdvanceTime: true });
  });
  afterEach(() => vi.useRealTimers());
}
