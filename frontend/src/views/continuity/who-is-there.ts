import type { Finding } from '../../api/client';
import type { ProjectState } from '../../lib/project.svelte';
import { router } from '../../lib/router.svelte';

/** What can be said at once where the plan and a picture differ about who is there: a key, its words, and what it does. */
export interface Word {
  key: string;
  words: string;
  say: () => Promise<void>;
}

/** What can be said of a finding; nothing for one of another kind. What is said is checked again at once. */
export function wordsFor(project: ProjectState, finding: Finding): Word[] {
  const { thread: id, shot, region } = finding;
  const take = shot ? project.picked.get(shot) : undefined;
  const name = id ? project.threads.get(id)?.name : undefined;
  if (!id || !shot || !take || !name) return [];

  const then = (deed: () => Promise<unknown>) => async () => {
    if (await deed()) await project.check.start();
  };
  const box = region ?? null;
  const onTakes = async () => {
    project.currentId = shot;
    router.go(project.id, 'takes');
  };
  switch (finding.kind) {
    case 'unmarked_doubtful':
      if (finding.until) return [{ key: 'y', words: `Mark ${name} on Takes …`, say: onTakes }];
      return [
        box ? { key: 'y', words: `${name} is in the frame`, say: then(() => project.mark(take.id, id, box)) } : { key: 'y', words: `Mark ${name} on Takes …`, say: onTakes },
        { key: 'n', words: `${name} is not in this picture`, say: then(() => project.refuse(take, id)) },
      ];
    case 'figure_missing':
    case 'prop_missing':
      return [{ key: 'o', words: `Take ${name} out of this shot`, say: then(() => project.run(id, [shot], false)) }];
    case 'unplanned':
    case 'unplanned_doubtful':
      return box ? [{ key: 'y', words: `Put ${name} into this shot`, say: then(async () => (await project.run(id, [shot], true)) && project.mark(take.id, id, box)) }] : [];
    default:
      return [];
  }
}
