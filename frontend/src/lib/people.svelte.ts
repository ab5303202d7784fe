import { api, ApiError, ok, whenUnknown, type Schemas } from '../api/client';

export type Person = Schemas['Person'];
export type Role = Schemas['RoleOf']['role'];
export type Invited = Schemas['Invited'];
/** What each role may do, in the words of the screen. */
export const ROLES: [Role, string, string][] = [
  ['reviewer', 'Reviewer', 'looks at everything'],
  ['illustrator', 'Illustrator', 'looks and changes'],
  ['owner', 'Owner', 'also decides who is in, and which services are asked'],
];

/** Who is signed in in this browser, and whether one has to be. */
class People {
  known = $state(false);
  closed = $state(false);
  /** No account yet: the link to the first one stands in the terminal. */
  first = $state(false);
  person = $state.raw<Person | null>(null);
  /** Everybody has to have a second factor here. */
  secondWanted = $state(false);
  /** What was open was closed meanwhile: the window stays as it is, and waits for signing in again. */
  lost = $state(false);

  constructor() {
    whenUnknown(() => {
      if (this.person) this.lost = true;
      else void this.load();
    });
  }

  get outside(): boolean {
    return this.closed && !this.person;
  }

  /** Signed in, with a second factor still to be set up. */
  get halfway(): boolean {
    return this.secondWanted && this.person?.second === false;
  }

  async load(): Promise<void> {
    for (;;) {
      try {
        const me = await ok(api.GET('/api/me'));
        Object.assign(this, { closed: me.closed, first: me.first, person: me.person, secondWanted: me.second_wanted, known: true });
        return;
      } catch (error) {
        if (!(error instanceof ApiError) || error.problem.status !== 0) throw error;
        await new Promise((again) => setTimeout(again, 2000));
      }
    }
  }

  /** Sign in; where somebody else signs in over a window that was lost, the page begins anew. */
  async signIn(login: string, password: string, code = ''): Promise<void> {
    this.#entered(await ok(api.POST('/api/me/sign-in', { body: { login, password, code } })));
  }

  async signOut(): Promise<void> {
    await ok(api.POST('/api/me/sign-out'));
    location.assign('/');
  }

  async look(secret: string): Promise<Invited> {
    return ok(api.POST('/api/me/invited', { body: { secret } }));
  }

  /** Use a link; returns the project that it leads into. */
  async join(secret: string, given: { login?: string; name?: string; password?: string; code?: string } | null): Promise<string | null> {
    const joined = await ok(api.POST('/api/me/joined', { body: { secret, login: '', name: '', password: '', code: '', ...given, as_known: given === null } }));
    this.#entered(joined.person);
    return joined.project_id;
  }

  #entered(person: Person) {
    const other = this.lost && this.person?.id !== person.id;
    Object.assign(this, { person, closed: true, first: false, lost: false });
    if (other) location.reload();
  }
}

/** Whether an answer asks for a code of the second factor, and whether one was given that does not hold. */
export const wantsCode = (error: unknown): boolean => error instanceof ApiError && error.problem.title === 'Code wanted';

export const people = new People();
