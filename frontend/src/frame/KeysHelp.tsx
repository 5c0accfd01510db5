import { Dialog } from '../ui/Dialog'
import { type Key, useAllKeys } from '../ui/keys'

const SAID: Record<string, string> = {
  'Control+Enter': 'Ctrl Enter',
  ArrowDown: '↓',
  ArrowUp: '↑',
  Escape: 'Esc',
}

/** The keys that work on this page just now. */
export function KeysHelp({ onClose }: { onClose: () => void }) {
  const groups = useAllKeys()()
  return (
    <Dialog title="Keys of this page" onClose={onClose}>
      <div className="grid grid-cols-2 gap-x-8 gap-y-4">
        {groups.map((group) => (
          <section key={group.title} aria-label={group.title}>
            <h3 className="mb-1 font-semibold text-deep">{group.title}</h3>
            <dl className="grid grid-cols-[90px_1fr] gap-y-1">
              {group.list.map((key) => (
                <KeyRow key={key.keys} of={key} />
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  )
}

function KeyRow({ of }: { of: Key }) {
  return (
    <>
      <dt>
        <kbd className="border border-edge bg-sheet px-1.5 font-sans text-xs">
          {SAID[of.keys] ?? of.keys}
        </kbd>
      </dt>
      <dd>{of.does}</dd>
    </>
  )
}
