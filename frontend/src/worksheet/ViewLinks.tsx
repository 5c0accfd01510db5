import { Link } from 'react-router'
import { useClientCode } from '../frame/useClientCode'
import { useSpanSearch } from '../frame/useSpan'
import { counted } from '../ledger/words'
import { copyTable } from '../ui/copyTable'
import { useNotice } from '../ui/notice'

interface ViewLinksProps {
  /** The other views' words and addresses. */
  others: { says: string; view: string | null }[]
  file?: { says: string; href: string }
}

/** The other views, printing, and the file to work on. */
export function ViewLinks({ others, file }: ViewLinksProps) {
  const client = useClientCode()
  const tell = useNotice()
  const span = useSpanSearch()
  function address(view: string | null): string {
    const search = new URLSearchParams(span)
    if (view) search.set('view', view)
    const text = search.toString()
    return `/clients/${client}/worksheet${text ? `?${text}` : ''}`
  }
  async function copy() {
    const table = document.querySelector<HTMLTableElement>('main table')
    if (table) tell({ text: `${counted(await copyTable(table), 'row')} copied.` })
  }
  return (
    <p className="screen-only ml-auto flex gap-4 whitespace-nowrap">
      {others.map((other) => (
        <Link key={other.says} className="text-tide hover:underline" to={address(other.view)}>
          {other.says}
        </Link>
      ))}
      <button type="button" className="text-tide hover:underline" onClick={copy}>
        Copy
      </button>
      <button type="button" className="text-tide hover:underline" onClick={() => window.print()}>
        Print
      </button>
      {file && (
        <a className="text-tide hover:underline" href={file.href}>
          {file.says}
        </a>
      )}
    </p>
  )
}
