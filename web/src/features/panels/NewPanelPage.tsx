import { useMutation, useQuery } from '@tanstack/react-query'
import { FormProvider, useWatch } from 'react-hook-form'
import { Link, useNavigate, useParams } from 'react-router'
import { DraftOffer } from '../../components/DraftOffer'
import { ManyField, NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { choices, type Kind } from '../../lib/choices'
import { showProblem, useDraftForm } from '../../lib/draft'
import { n } from '../../lib/input'
import { stages, stations } from '../../lib/viewing'

type Panel = Schemas['Panel']

const kinds = choices<Kind<'Panel', 'kind'>>({
  preference: 'which of two is better',
  odd_one_out: 'which of three is the odd one',
  ranking: 'put all in order',
  matching: 'which was printed on which',
})

const shows = choices<Kind<'Panel', 'shows'>>({
  specimens: 'the copies themselves',
  photographs: 'photographs of them',
})

interface Values {
  kind: string
  shows: string
  question: string
  looks_at: string
  stage: string
  station: string
  magnification: string
  light: string
  judges: string
  repeats: string
  same: string
  piece: string
  specimens: string[][]
  photographs: string[][]
}

/** A blind panel is put together: what is asked, of what, and by how many. */
export default function NewPanelPage() {
  const { id = '' } = useParams()
  const known = useQuery({
    queryKey: ['panel choices', id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/panel-choices', { params: { path: { id } } })),
  })
  return (
    <Page
      title="A blind panel"
      about="People choose between coded copies without knowing which is which."
      actions={
        <Link className="button" to={`/verdict/${id}`}>
          Back to the review
        </Link>
      }
    >
      <Ready of={known}>
        {({ arms }) =>
          arms.length < 2 ? (
            <Empty title="A panel needs two set-ups with copies that came out">
              <p>This review has {arms.length === 1 ? 'one' : 'none'} so far. Print and judge another first.</p>
              <Link to="/runs/prepare">Prepare a print</Link>
            </Empty>
          ) : (
            <PanelForm reviewID={id} arms={arms} />
          )
        }
      </Ready>
    </Page>
  )
}

function PanelForm({ reviewID, arms }: { reviewID: string; arms: Schemas['ArmChoice'][] }) {
  const navigate = useNavigate()
  const form = useDraftForm<Values>(`draft-panel-${reviewID}`, {
    kind: 'preference',
    shows: 'specimens',
    question: '',
    looks_at: '',
    stage: 'primed',
    station: 'in_hand',
    magnification: '',
    light: '',
    judges: '8',
    repeats: '1',
    same: '1',
    piece: arms[0]?.piece_id ?? '',
    specimens: arms.map(() => []),
    photographs: arms.map(() => []),
  })
  const [kind, station, shown, piece] = useWatch({ control: form.control, name: ['kind', 'station', 'shows', 'piece'] })
  const pieces = [...new Map(arms.map((a) => [a.piece_id, a.piece]))]
  const make = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.POST('/api/v1/reviews/{id}/panels', {
          params: { path: { id: reviewID } },
          body: {
            kind: v.kind as Panel['kind'],
            shows: v.shows as Panel['shows'],
            question: v.question,
            looks_at: v.looks_at,
            stage: v.stage as Panel['stage'],
            station: v.station as Panel['station'],
            magnification: v.station === 'loupe' ? n(v.magnification) : null,
            light: v.light,
            judges: n(v.judges) ?? 0,
            repeats: v.kind === 'preference' ? (n(v.repeats) ?? 0) : 0,
            same: v.kind === 'preference' ? (n(v.same) ?? 0) : 0,
            arms: arms
              .map((a, i) => ({
                profile_id: a.profile_id,
                since: a.since,
                piece_id: a.piece_id,
                item_ids: (v.shows === 'photographs' ? v.photographs : v.specimens)[i] || [],
              }))
              .filter((a) => a.piece_id === v.piece && a.item_ids.length > 0),
          },
        }),
      ),
    onSuccess: (made) => {
      form.forget()
      void navigate(`/verdict/panels/${made.panel.id}`)
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form className="grid gap-4" aria-label="A blind panel" onSubmit={form.handleSubmit((v) => make.mutate(v))}>
        <DraftOffer old={form.old} />
        <section className="sheet grid gap-3" aria-label="What is asked">
          <h2>What is asked</h2>
          <div className="grid items-start gap-3 sm:grid-cols-2">
            <TextField name="question" label="Question" hint="one sentence, such as: Which is crisper?" />
            <TextField name="looks_at" label="Looked at" hint="a place on the piece, or nothing for all of it" />
            <SelectField name="kind" label="How" options={kinds} />
            <SelectField name="shows" label="What judges are shown" options={shows} />
          </div>
          <div className="grid items-start gap-3 sm:grid-cols-2 lg:grid-cols-4">
            <SelectField name="station" label="From where" options={stations} />
            {station === 'loupe' && <NumberField name="magnification" label="Magnification" unit="×" />}
            <SelectField name="stage" label="Stage of the surface" options={stages} />
            <TextField name="light" label="Light" hint="one for all, such as a daylight lamp" />
          </div>
        </section>
        <section className="sheet grid gap-3" aria-label="By how many">
          <h2>By how many</h2>
          <div className="grid items-start gap-3 sm:grid-cols-3">
            <NumberField name="judges" label="Judges" hint="fixed from now on; six who agree can show a preference" />
            {kind === 'preference' && (
              <>
                <NumberField name="repeats" label="Pairs shown twice" hint="to each judge, places turned" />
                <NumberField name="same" label="Pairs of one set-up" hint="a check: nothing to prefer" />
              </>
            )}
          </div>
        </section>
        <section className="sheet grid gap-3" aria-label="Of what">
          <h2>Of what</h2>
          <p className="text-soft">
            Two set-ups or more, and of each as many copies as you can: with one, what is judged is that copy.
          </p>
          {pieces.length > 1 && (
            <div className="max-w-sm">
              <SelectField name="piece" label="Piece" options={pieces.map(([value, label]) => ({ value, label }))} />
            </div>
          )}
          {arms.map(
            (a, i) =>
              a.piece_id === piece && (
                <Arm
                  key={`${a.profile_id} ${a.since} ${a.piece_id}`}
                  arm={a}
                  at={i}
                  photographs={shown === 'photographs'}
                />
              ),
          )}
        </section>
        {make.isError && <Complaint>{make.error.message}</Complaint>}
        <div>
          <button className="button button-main" disabled={make.isPending}>
            Deal the panel
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

/** The copies, or the photographs, of a set-up that can be shown. */
function Arm({ arm, at, photographs }: { arm: Schemas['ArmChoice']; at: number; photographs: boolean }) {
  const options = photographs
    ? arm.photographs.map((p) => ({
        value: p.id,
        label: `${p.code} of ${p.specimen}, ${p.stage}, ${p.station}, ${p.light}`,
      }))
    : arm.specimens.map((s) => ({
        value: s.id,
        label: `${s.code}, ${s.stage}${s.against ? `, ${s.against}` : ''}`,
      }))
  return (
    <ManyField
      name={`${photographs ? 'photographs' : 'specimens'}.${at}`}
      label={arm.label}
      options={options}
      all
      none={photographs ? 'No photographs of its copies yet.' : 'No copy has come out yet.'}
    />
  )
}
