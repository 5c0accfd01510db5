import { Link } from 'react-router'
import { useClientCode } from '../frame/useClientCode'
import { useSpanSearch } from '../frame/useSpan'
import { counted } from '../ledger/words'
import { copyTable } from '../ui/copyTable'
import { useNotice } from '../ui/notice'

interface ViewLinksProps {
  /** The other view's words and address. */
  other: { says: string; view: string | null }
  file: { says: string; href: string }
}

/** The other view, printing, and the file to work on. */
export function ViewLinks({ other, file }: ViewLinksProps) {
  const client = useClientCode()
  const tell = useNotice()
  const search = new URLSearchParams(useSpanSearch())
  if (other.view) search.set('view', other.view)
  const text = search.toString()
  async function copy() {
    const table = document.querySelector<HTMLTableElement>('main table')
    if (table) tell({ text: `${counted(await copyTable(table), 'row')} copied.` })
  }
  return (
    <p className="screen-only ml-auto flex gap-4 whitespace-nowrap">
      <Link
        className="text-tide hover:underline"
        to={`/clients/${client}/worksheet${text ? `?${text}` : ''}`}
      >
        {other.says}
      </Link>
      <button type="button" className="text-tide hover:underline" onClick={copy}>
        Copy
      </button>
      <button type="button" className="text-tide hover:underline" onClick={() => window.print()}>
        Print
      </button>
      <a className="text-tide hover:underline" href={file.href}>
        {file.says}
      </a>
    </p>
  )
}
