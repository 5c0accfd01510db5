import { DropdownMenu } from 'radix-ui'
import { useNavigate } from 'react-router'
import { usePerson, useSignOut } from './session'
import { useTheme } from './useTheme'

const ITEM = 'block w-full cursor-pointer px-4 py-1 text-left outline-none data-highlighted:bg-wash'

/** Who is at work, the theme, the keys, signing out. */
export function PersonMenu({ onKeys }: { onKeys: () => void }) {
  const person = usePerson()
  const signOut = useSignOut()
  const navigate = useNavigate()
  const [theme, setTheme] = useTheme()
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`${person.code}: ${person.name}, ${person.role}`}
        className="grid size-[30px] shrink-0 place-items-center rounded-full border-[1.5px] border-deep text-xs font-semibold text-deep"
      >
        {person.code.slice(0, 3)}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={6}
          className="z-50 min-w-56 border border-edge bg-sheet py-2 shadow-lg"
        >
          <DropdownMenu.Label className="px-4 pb-1">
            <strong>{person.name}</strong> <span className="text-quiet">{person.role}</span>
          </DropdownMenu.Label>
          <DropdownMenu.Separator className="my-1 border-t border-rule" />
          <DropdownMenu.Item
            className={ITEM}
            onSelect={() => setTheme(theme === 'dark' ? 'light' : 'dark')}
          >
            {theme === 'dark' ? 'Light theme' : 'Dark theme'}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={() => navigate('/account')}>
            Your account
          </DropdownMenu.Item>
          {person.may.includes('run-practice') && (
            <DropdownMenu.Item className={ITEM} onSelect={() => navigate('/practice')}>
              The practice: people, rules, record
            </DropdownMenu.Item>
          )}
          <DropdownMenu.Item className={ITEM} onSelect={onKeys}>
            Keys of this page <span className="text-quiet">?</span>
          </DropdownMenu.Item>
          <DropdownMenu.Item className={ITEM} onSelect={() => signOut()}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
