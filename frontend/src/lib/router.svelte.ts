export const VIEWS = ['story', 'sheet', 'models', 'library', 'briefs', 'takes', 'continuity', 'run', 'dummy', 'delivery', 'showings'] as const;
export type View = (typeof VIEWS)[number];
export const VIEW_NAMES: Record<View, string> = {
  story: 'Story',
  sheet: 'Sheet',
  models: 'Model sheets',
  library: 'Library',
  briefs: 'Briefs',
  takes: 'Takes',
  continuity: 'Continuity',
  run: 'Run-through',
  dummy: 'Dummy',
  delivery: 'Delivery',
  showings: 'Showings',
};

/** Where the window is: a project and a view of it, kept in the address so that reload and back work. */
class Router {
  project = $state<string | null>(null);
  view = $state<View>('sheet');
  /** A link was followed that opens once, or that shows a sequence; its secret is what stands behind the #, which no server sees. */
  door = $state<'enter' | 'show' | null>(null);
  /** A thread or finding that the view was opened for. */
  about = $state<string | null>(null);

  constructor() {
    if (typeof window === 'undefined') return;
    window.addEventListener('popstate', () => this.read());
    this.read();
  }

  go(project: string | null, view: View = 'sheet', about: string | null = null) {
    const path = project ? `/p/${project}/${view}${about ? `/${about}` : ''}` : '/';
    if (path !== location.pathname) history.pushState(null, '', path);
    this.door = null;
    this.project = project;
    this.view = view;
    this.about = about;
  }

  private read() {
    const [, p, project, view, about] = location.pathname.split('/');
    this.door = p === 'enter' || p === 'show' ? p : null;
    this.project = p === 'p' && project ? project : null;
    this.view = VIEWS.find((v) => v === view) ?? 'sheet';
    this.about = about ?? null;
  }
}

export const router = new Router();
