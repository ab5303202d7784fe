import { getContext, setContext } from 'svelte';
import type { ProjectState } from './project.svelte';

const KEY = Symbol('project');

export const setProject = (project: ProjectState): ProjectState => setContext(KEY, project);
export const useProject = () => getContext<ProjectState>(KEY);

/** Whether a key event goes to a text field, where letters are text and not commands. */
export function typing(event: Event): boolean {
  const target = event.target as HTMLElement | null;
  return !!target && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));
}
