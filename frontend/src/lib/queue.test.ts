import { server, soon } from '../testing/server';
import { eachTestAfresh } from '../testing/project';
import { expect, it } from 'vitest';
import { QueueState } from './queue.svelte';

eachTestAfresh();

const job = (id: string, state: string, shot_id = '1') => ({ id, state, shot_id, count: 2, taken: 0 });

function queue() {
  const trouble: unknown[] = [];
  server.standing.set('/jobs', { counts: { running: 1, waiting: 3, failed: 1, done: 9 }, jobs: [job('a', 'running'), job('b', 'waiting', '2'), job('c', 'held'), job('d', 'failed')] });
  server.standing.set('/services', [{ service_id: 's', can: null }]);
  return { q: new QueueState('p', (e) => trouble.push(e)), trouble };
}

it('is read once for many changes, and parts what is open from what went wrong', async () => {
  const { q } = queue();
  q.told();
  q.told();
  await soon(() => expect(q.jobs).toHaveLength(4));
  expect(server.asked.filter((a) => a.path.endsWith('/jobs'))).toHaveLength(1);
  expect([q.openCount, q.wrongCount, q.running]).toEqual([4, 1, 1]);
  expect(q.open.map((j) => j.id)).toEqual(['a', 'b', 'c']);
  expect([...q.openByShot.keys()]).toEqual(['1', '2']);
  expect(q.serviceById.get('s')).toBeDefined();
  q.close();
});

it('is steered, and read again also when that was refused', async () => {
  const { q, trouble } = queue();
  await q.steer('up', ['b']);
  expect(server.of('POST')[0]).toMatchObject({ path: '/api/projects/p/jobs/steer', body: { deed: 'up', job_ids: ['b'] } });
  server.refuse(422, 'This job has gone on meanwhile.');
  await q.steer('pause');
  expect(String(trouble[0])).toContain('gone on');
  expect(q.jobs).toHaveLength(4);
});
