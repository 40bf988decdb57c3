import { isRecord } from '~~/core/plan/same'
import { soundness } from '~~/core/plan/stored-record'
import type { Head, ProjectRecord } from './records'

/** What the list shows of a record, whatever state it is in. */
export function headOf(record: Partial<ProjectRecord> & { id: string }): Head {
  const plan = isRecord(record.plan) ? record.plan as Record<string, unknown> : {}
  const sound = soundness(record.plan)
  const text = (value: unknown, otherwise: string) => typeof value === 'string' ? value : otherwise
  return {
    id: record.id,
    name: text(plan.name, 'A project without a name'),
    story: text(plan.story, ''),
    parts: Array.isArray(plan.parts) ? plan.parts.length : 0,
    board: typeof plan.board === 'string' ? plan.board : null,
    createdAt: text(record.createdAt, ''),
    updatedAt: text(record.updatedAt, ''),
    ...(record.deletedAt !== undefined && { deletedAt: record.deletedAt }),
    ...(sound.state === 'newer'
      && { trouble: { kind: 'newer', message: `kept by a newer Voltaris (version ${sound.version})` } }),
    ...(sound.state === 'damaged' && { trouble: { kind: 'damaged', message: sound.message } }),
  }
}
