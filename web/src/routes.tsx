import type { ComponentType } from 'react'
import { createBrowserRouter, Link, useRouteError } from 'react-router'
import { Page } from './components/Page'
import { Shell } from './components/Shell'

/** Each view is loaded when it is first opened. */
const view = (load: () => Promise<{ default: ComponentType }>) => async () => ({ Component: (await load()).default })

function Broken() {
  const error = useRouteError()
  return (
    <Page title="This page broke">
      <p>{error instanceof Error ? error.message : 'It could not be found.'}</p>
      <p>
        Nothing on record was changed. <Link to="/">Back to the bench</Link>
      </p>
    </Page>
  )
}

function NotFound() {
  return (
    <Page title="No such page">
      <p>
        The address names nothing here. <Link to="/">Back to the bench</Link>
      </p>
    </Page>
  )
}

const views = [
  { path: '/', lazy: view(() => import('./features/bench/BenchPage')) },
  { path: '/software', lazy: view(() => import('./features/software/SoftwarePage')) },
  { path: '/changes', lazy: view(() => import('./features/changes/ChangesPage')) },
  { path: '/upkeep', lazy: view(() => import('./features/bench/UpkeepPage')) },
  { path: '/knots/:id', lazy: view(() => import('./features/bench/KnotPage')) },
  { path: '/phone', lazy: view(() => import('./features/phone/PhonePage')) },
  { path: '/door', lazy: view(() => import('./features/door/DoorPage')) },
  { path: '/devices', lazy: view(() => import('./features/devices/DevicesPage')) },
  { path: '/failures', lazy: view(() => import('./features/failures/FailuresPage')) },
  { path: '/kit', lazy: view(() => import('./features/kit/KitPage')) },
  { path: '/kit/machines/:id', lazy: view(() => import('./features/kit/MachinePage')) },
  { path: '/kit/resins/:id', lazy: view(() => import('./features/kit/ResinPage')) },
  { path: '/kit/instruments/:id', lazy: view(() => import('./features/kit/InstrumentPage')) },
  { path: '/kit/studies/:id', lazy: view(() => import('./features/kit/StudyPage')) },
  { path: '/kit/coupons/new', lazy: view(() => import('./features/kit/CouponPage')) },
  { path: '/kit/pieces/new', lazy: view(() => import('./features/kit/ImportPage')) },
  { path: '/kit/pieces/:id', lazy: view(() => import('./features/kit/PiecePage')) },
  { path: '/tables/:kind', lazy: view(() => import('./features/tables/TablePage')) },
  { path: '/dial-in', lazy: view(() => import('./features/dialin/DialInPage')) },
  { path: '/dial-in/new', lazy: view(() => import('./features/dialin/PlanPage')) },
  { path: '/dial-in/:id', lazy: view(() => import('./features/dialin/SeriesPage')) },
  { path: '/plan', lazy: view(() => import('./features/plan/PlansPage')) },
  { path: '/plan/new', lazy: view(() => import('./features/plan/NewPlatePage')) },
  { path: '/plan/calendar', lazy: view(() => import('./features/plan/CalendarPage')) },
  { path: '/plan/fill', lazy: view(() => import('./features/plan/FillPage')) },
  { path: '/plan/:id', lazy: view(() => import('./features/plan/PlatePage')) },
  { path: '/plan/:id/sheet', lazy: view(() => import('./features/plan/SheetPage')) },
  { path: '/runs', lazy: view(() => import('./features/run/RunsPage')) },
  { path: '/runs/new', lazy: view(() => import('./features/run/NewRunPage')) },
  { path: '/runs/prepare', lazy: view(() => import('./features/run/PreparePage')) },
  { path: '/runs/:id', lazy: view(() => import('./features/run/RunPage')) },
  { path: '/runs/:id/card', lazy: view(() => import('./features/run/CardPage')) },
  { path: '/runs/:id/edit', lazy: view(() => import('./features/run/EditRunPage')) },
  { path: '/runs/:id/labels', lazy: view(() => import('./features/run/LabelsPage')) },
  { path: '/specimens/:code', lazy: view(() => import('./features/inspect/SpecimenPage')) },
  { path: '/inspect/references/:id', lazy: view(() => import('./features/inspect/ReferencePage')) },
  { path: '/inspect', lazy: view(() => import('./features/inspect/InspectListPage')) },
  { path: '/inspect/readings', lazy: view(() => import('./features/inspect/ReadingsPage')) },
  { path: '/inspect/stress', lazy: view(() => import('./features/stress/StressListPage')) },
  { path: '/inspect/stress/new', lazy: view(() => import('./features/stress/NewStressPage')) },
  { path: '/inspect/stress/:id', lazy: view(() => import('./features/stress/StressPage')) },
  { path: '/inspect/:id/paper', lazy: view(() => import('./features/inspect/PaperPage')) },
  { path: '/inspect/:id', lazy: view(() => import('./features/inspect/InspectPage')) },
  { path: '/photographs/:id', lazy: view(() => import('./features/inspect/PhotographPage')) },
  { path: '/compare/photographs', lazy: view(() => import('./features/compare/SideBySidePage')) },
  { path: '/compare', lazy: view(() => import('./features/compare/ComparePage')) },
  { path: '/help', lazy: view(() => import('./features/help/HelpPage')) },
  { path: '/help/:key', lazy: view(() => import('./features/help/HelpPage')) },
  { path: '/verdict', lazy: view(() => import('./features/verdict/VerdictPage')) },
  { path: '/verdict/bundles', lazy: view(() => import('./features/verdict/BundlesPage')) },
  { path: '/verdict/:id', lazy: view(() => import('./features/verdict/ReviewPage')) },
  { path: '/verdict/:id/write-up', lazy: view(() => import('./features/verdict/WriteUpPage')) },
  { path: '/verdict/:id/claims', lazy: view(() => import('./features/verdict/ClaimsPage')) },
  { path: '/verdict/:id/readers', lazy: view(() => import('./features/verdict/ReadersPage')) },
  { path: '/verdict/:id/money', lazy: view(() => import('./features/verdict/MoneyPage')) },
  { path: '/verdict/:id/findings', lazy: view(() => import('./features/verdict/FindingsPage')) },
  { path: '/verdict/:id/panels/new', lazy: view(() => import('./features/panels/NewPanelPage')) },
  { path: '/verdict/panels/:id', lazy: view(() => import('./features/panels/PanelPage')) },
  { path: '/verdict/panels/:id/cards', lazy: view(() => import('./features/panels/CardsPage')) },
  { path: '/verdict/panels/:id/links', lazy: view(() => import('./features/panels/LinksPage')) },
  { path: '/verdict/panels/:id/table', lazy: view(() => import('./features/panels/TablePage')) },
  { path: '/verdict/:id/plan', lazy: view(() => import('./features/verdict/PlanPrintsPage')) },
  { path: '*', element: <NotFound /> },
]

export const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Broken />,
    hydrateFallbackElement: <p className="p-6">Opening…</p>,
    children: [
      // A page that breaks keeps the navigation around it.
      { errorElement: <Broken />, children: views },
    ],
  },
  // A judge's link opens that ballot and no way into the program.
  { path: '/ballot/:token', errorElement: <Broken />, lazy: view(() => import('./features/panels/BallotPage')) },
])
