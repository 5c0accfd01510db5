import { Suspense, useCallback, useEffect } from 'react'
import { Outlet, useLocation } from 'react-router'
import { answered, api } from '../api/client'
import { useNotice } from '../ui/notice'
import { Waiting } from '../ui/Waiting'
import { AreaTabs, useArea } from './AreaTabs'
import { ClientSwitch } from './ClientSwitch'
import { EffectStrip } from './EffectStrip'
import { Inspector } from './inspector/Inspector'
import { PreparedProvider } from './prepared'
import { useClient, useWatchRevision } from './queries'
import { THE_WORK, TopBar } from './TopBar'
import { YearRibbon } from './YearRibbon'

/** What surrounds each page of a client. */
export function ClientFrame() {
  return (
    <PreparedProvider>
      <div className="flex h-full min-h-[600px] min-w-[1024px] flex-col">
        <Suspense fallback={<Waiting what="Opening the books" />}>
          <Framed />
        </Suspense>
      </div>
    </PreparedProvider>
  )
}

function Framed() {
  const client = useClient()
  const tell = useNotice()
  useRememberPlace(client.code)
  useWatchRevision(
    client,
    useCallback(
      () =>
        tell({ text: 'Somebody else posted or decided here: what you see is up to date again.' }),
      [tell],
    ),
  )
  const area = useArea()
  useEffect(() => {
    document.title = [area, client.name, 'Cork Post'].filter(Boolean).join(' · ')
  }, [area, client.name])
  return (
    <>
      <TopBar>
        <ClientSwitch />
        <YearRibbon />
      </TopBar>
      <AreaTabs />
      {client.is_archived && (
        <p role="status" className="border-b border-rule bg-straw px-5 py-1.5 text-ink">
          <strong>Archived.</strong> It is read, and nothing is written to it. A partner brings it
          back on the Practice page.
        </p>
      )}
      <main id={THE_WORK} tabIndex={-1} className="flex min-h-0 flex-1 flex-col outline-none">
        <Suspense fallback={<Waiting />}>
          <Outlet />
        </Suspense>
      </main>
      <EffectStrip />
      <Inspector />
    </>
  )
}

/** Keeps where the person is, so that the desk's "carry on" leads back here. */
function useRememberPlace(code: string) {
  const { pathname, search } = useLocation()
  useEffect(() => {
    const timer = window.setTimeout(() => {
      answered(
        api.PUT('/api/clients/{client}/place', {
          params: { path: { client: code } },
          body: { path: `${pathname}${search}`.slice(0, 300) },
        }),
      ).catch(() => undefined)
    }, 800)
    return () => window.clearTimeout(timer)
  }, [code, pathname, search])
}
