import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query'
import { StrictMode, useEffect, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Navigate, Outlet, RouterProvider, useLocation } from 'react-router'
import { ProblemError, sessionIsBack, whenSessionEnds } from './api/client'
import { BankPage } from './bank/BankPage'
import { BooksPage } from './books/BooksPage'
import { DeskPage } from './desk/DeskPage'
import { EntriesPage } from './entries/EntriesPage'
import { ClientFrame } from './frame/ClientFrame'
import { PageProblem } from './frame/PageProblem'
import { type Person, sessionOptions } from './frame/session'
import { useTheme } from './frame/useTheme'
import { OpenItemsPage } from './open-items/OpenItemsPage'
import { OwnersPage } from './owners/OwnersPage'
import { QueriesPage } from './queries/QueriesPage'
import { ReviewPage } from './review/ReviewPage'
import { SessionEnded } from './sign-in/SessionEnded'
import { SignInPage } from './sign-in/SignInPage'
import { SignOffPage } from './sign-off/SignOffPage'
import { KeysProvider, useDrawn } from './ui/keys'
import { NoticeProvider } from './ui/notice'
import { ProblemNote } from './ui/ProblemNote'
import { WorksheetPage } from './worksheet/WorksheetPage'
import './styles.css'

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // What was refused stays refused; what failed on the way is asked for once more.
      retry: (failures, wrong) => failures < 1 && !(wrong instanceof ProblemError && wrong.status),
    },
  },
})
/** Every page: its keys are there once it is. */
function Pages() {
  useDrawn(useLocation().pathname)
  return <Outlet />
}

const router = createBrowserRouter([
  {
    element: <Pages />,
    children: [
      { path: '/', element: <DeskPage />, errorElement: <PageProblem /> },
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
    sessionIsBack()
  }, [who, worker, dataUpdatedAt])
  if (error && !worker) return <ProblemNote problem={error} className="m-10" />
  if (!session) return null
  if (!who && !worker) return <SignInPage session={session} />
  if (who && worker && who.code !== worker.code) return null
  return (
    <>
      <RouterProvider router={router} />
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
