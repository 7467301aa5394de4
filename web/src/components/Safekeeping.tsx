import { useQuery } from '@tanstack/react-query'
import { answer, api } from '../lib/api'
import { counted, figure, moment } from '../lib/format'
import { Complaint } from './Page'

const useSafekeeping = () =>
  useQuery({
    queryKey: ['safekeeping'],
    queryFn: () => answer(api.GET('/api/v1/safekeeping')),
    refetchInterval: 300_000,
  })

/** How the record is kept safe: the backups that write themselves, and the way to have them. */
export function Safekeeping() {
  const { data: s } = useSafekeeping()
  if (!s) return null
  return (
    <section className="sheet grid gap-2" aria-label="Safekeeping">
      <h2>Safekeeping</h2>
      {s.folder === '' ? (
        <p>
          No backup is written by itself. <code>ojime serve --backup-to FOLDER</code> writes one a day, checks it, and
          keeps the last seven; <code>ojime backup FILE</code> writes one now.
        </p>
      ) : (
        <>
          <p>
            Backed up into <strong className="wrap-anywhere">{s.folder}</strong> every{' '}
            <span className="num">{figure(s.every_h)}</span> h, each checked; {counted(s.keep, 'backup')} kept.{' '}
            {s.next_ms != null && `The next is due ${moment(s.next_ms)}.`}
          </p>
          <p className="text-sm text-soft">
            A backup holds all that is on record, the keys of sealed blind panels too.
          </p>
          {s.failed && <Complaint>The last backup was not made: {s.failed}. It is tried again.</Complaint>}
          <ul className="grid gap-1">
            {s.backups.map((b) => (
              <li key={b.name} className="wrap-anywhere">
                <span className="num text-soft">{moment(b.at_ms)}</span> {b.name},{' '}
                <span className="num">{figure(b.bytes / 1e6)} MB</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  )
}

/** Says so where backups are wanted and fail. */
export function NotSafe() {
  const failed = useSafekeeping().data?.failed
  return failed ? <Complaint>No backup could be made: {failed}. It is tried again.</Complaint> : null
}
