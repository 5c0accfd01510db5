import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query'
import { type ComponentType, lazy, StrictMode, Suspense, useEffect, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Navigate, Outlet, RouterProvider, useLocation } from 'react-router'
import { ProblemError, sessionIsBack, whenSessionEnds } from './api/client'
import { ClientFrame } from './frame/ClientFrame'
import { PageProblem } from './frame/PageProblem'
import { PasswordAgain } from './frame/PasswordAgain'
import { type Person, sessionOptions } from './frame/session'
import { useTheme } from './frame/useTheme'
import { InvitationPage } from './sign-in/InvitationPage'
import { SessionEnded } from './sign-in/SessionEnded'
import { SignInPage } from './sign-in/SignInPage'
import { KeysProvider, useDrawn } from './ui/keys'
import { NoticeProvider } from './ui/notice'
import { ProblemNote } from './ui/ProblemNote'
import './styles.css'

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // What was refused stays refused; what failed on the way is asked for once more.
      retry: (failures, wrong) => failures < 1 && !(wrong instanceof ProblemError && wrong.status),
    },
  },
})
const waiting: (() => Promise<unknown>)[] = []

/** A page whose script comes when it is opened, or once the first page stands. */
function byItself(load: () => Promise<{ default: ComponentType }>) {
  waiting.push(load)
  return lazy(load)
}

const AccountPage = byItself(() =>
  import('./practice/AccountPage').then((file) => ({ default: file.AccountPage })),
)
const TakeInPage = byItself(() =>
  import('./taking/TakeInPage').then((file) => ({ default: file.TakeInPage })),
)
const PracticePage = byItself(() =>
  import('./practice/PracticePage').then((file) => ({ default: file.PracticePage })),
)
const BankPage = byItself(() =>
  import('./bank/BankPage').then((file) => ({ default: file.BankPage })),
)
const BooksPage = byItself(() =>
  import('./books/BooksPage').then((file) => ({ default: file.BooksPage })),
)
const DeskPage = byItself(() =>
  import('./desk/DeskPage').then((file) => ({ default: file.DeskPage })),
)
const EntriesPage = byItself(() =>
  import('./entries/EntriesPage').then((file) => ({ default: file.EntriesPage })),
)
const OpenItemsPage = byItself(() =>
  import('./open-items/OpenItemsPage').then((file) => ({ default: file.OpenItemsPage })),
)
const OwnersPage = byItself(() =>
  import('./owners/OwnersPage').then((file) => ({ default: file.OwnersPage })),
)
const QueriesPage = byItself(() =>
  import('./queries/QueriesPage').then((file) => ({ default: file.QueriesPage })),
)
const ReviewPage = byItself(() =>
  import('./review/ReviewPage').then((file) => ({ default: file.ReviewPage })),
)
const SignOffPage = byItself(() =>
  import('./sign-off/SignOffPage').then((file) => ({ default: file.SignOffPage })),
)
const TieOutsPage = byItself(() =>
  import('./tie-outs/TieOutsPage').then((file) => ({ default: file.TieOutsPage })),
)
const WorksheetPage = byItself(() =>
  import('./worksheet/WorksheetPage').then((file) => ({ default: file.WorksheetPage })),
)

/** Every page: its keys are there once it is. */
function Pages() {
  useDrawn(useLocation().pathname)
  // The other pages' scripts come while nobody waits for them.
  useEffect(() => {
    const timer = window.setTimeout(() => waiting.forEach((load) => void load()), 1_500)
    return () => window.clearTimeout(timer)
  }, [])
  return (
    <Suspense fallback={null}>
      <Outlet />
    </Suspense>
  )
}

const router = createBrowserRouter([
  {
    element: <Pages />,
    children: [
      { path: '/', element: <DeskPage />, errorElement: <PageProblem /> },
      { path: '/account', element: <AccountPage />, errorElement: <PageProblem /> },
      { path: '/take-in', element: <TakeInPage />, errorElement: <PageProblem /> },
      { path: '/practice/:view?', element: <PracticePage />, errorElement: <PageProblem /> },
      {
        path: '/clients/:client',
        element: <ClientFrame />,
        errorElement: <PageProblem />,
        children: [
          { index: true, element: <Navigate to="review" replace /> },
          { path: 'books/:view?', element: <BooksPage /> },
          { path: 'bank/:account?', element: <BankPage /> },
          { path: 'open-items/:which?', element: <OpenItemsPage /> },
          { path: 'review/:point?', element: <ReviewPage /> },
          { path: 'queries', element: <QueriesPage /> },
          { path: 'owners', element: <OwnersPage /> },
          { path: 'entries/:entry?', element: <EntriesPage /> },
          { path: 'worksheet', element: <WorksheetPage /> },
          { path: 'tie-outs', element: <TieOutsPage /> },
          { path: 'sign-off', element: <SignOffPage /> },
        ],
      },
      { path: '*', element: <PageProblem /> },
    ],
  },
])

function Practice() {
  useTheme()
  const { data: session, error, dataUpdatedAt } = useQuery(sessionOptions)
  const [worker, setWorker] = useState<Person | null>(null)
  const who = session?.person
  useEffect(() => {
    whenSessionEnds(() => queries.invalidateQueries({ queryKey: sessionOptions.queryKey }))
  }, [])
  // biome-ignore lint/correctness/useExhaustiveDependencies: each answer that names somebody counts
  useEffect(() => {
    if (!who) return
    // Another person sees nothing of what the one before had open.
    if (worker && worker.code !== who.code) window.location.assign('/')
    else setWorker(who)
    if (session?.needs_factor && window.location.pathname !== '/account')
      router.navigate('/account')
    sessionIsBack()
  }, [who, worker, dataUpdatedAt])
  if (error && !worker) return <ProblemNote problem={error} className="m-10" />
  if (!session) return null
  const invitation = /^\/invitation\/([\w-]+)$/.exec(window.location.pathname)?.[1]
  if (invitation && !who) return <InvitationPage invitation={invitation} />
  if (!who && !worker) return <SignInPage session={session} />
  if (who && worker && who.code !== worker.code) return null
  return (
    <>
      <RouterProvider router={router} />
      <PasswordAgain />
      {!who && worker && <SessionEnded session={session} worker={worker} />}
    </>
  )
}

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <KeysProvider>
        <NoticeProvider>
          <Practice />
        </NoticeProvider>
      </KeysProvider>
    </QueryClientProvider>
  </StrictMode>,
)
