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

/** Whether a key is meant for something else than the view that lies open: a text field, or a dialog or menu over it. */
export function meantElsewhere(event: Event): boolean {
  return event.defaultPrevented || typing(event) || document.querySelector('[role=dialog],[role=menu]') !== null;
}
