import type { Finding } from '../../api/client';
import type { ProjectState } from '../../lib/project.svelte';
import { router } from '../../lib/router.svelte';

/** What can be said or done at once about a finding: a key, its words, and what it does. */
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
  if (!shot || !take) return [];
  const then = (deed: () => Promise<unknown>) => async () => {
    if (await deed()) await project.check.start();
  };
  const clip = project.pictures.get(take.picture_sha)?.clip;
  if (finding.kind === 'clip_slips' && finding.at_s != null && clip) {
    const frame_s = clip.seconds / Math.max(1, clip.frames);
    const begin = take.trim?.[0] ?? 0;
    const end = Math.max(begin + 2 * frame_s, finding.at_s - frame_s);
    return [{ key: 'y', words: `Cut the clip at ${end.toFixed(1)} s`, say: then(() => project.trim(take, [begin, end])) }];
  }
  if (!id || !name) return [];
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
