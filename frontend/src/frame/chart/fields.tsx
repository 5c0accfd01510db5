import { plainWords } from '../../ledger/words'

const TYPES = ['asset', 'liability', 'equity', 'income', 'expense']
const FIELD = 'w-full border border-edge bg-sheet px-2 py-1.5 disabled:bg-wash'

interface TypeFieldProps {
  value: string
  onChange: (type: string) => void
}

export function TypeField({ value, onChange }: TypeFieldProps) {
  return (
    <label className="block">
      <span className="block text-quiet">Type</span>
      <select className={FIELD} value={value} onChange={(event) => onChange(event.target.value)}>
        {TYPES.map((type) => (
          <option key={type}>{type}</option>
        ))}
      </select>
    </label>
  )
}

interface RoleFieldProps {
  value: string
  type: string
  /** The types that each role goes with. */
  roles: Record<string, string[]>
  onChange: (role: string) => void
}

/** The roles that an account of that type can have. */
export function RoleField({ value, type, roles, onChange }: RoleFieldProps) {
  const fitting = Object.keys(roles)
    .filter((role) => role === value || roles[role]?.includes(type))
    .sort()
  return (
    <label className="block">
      <span className="block text-quiet">Role</span>
      <select className={FIELD} value={value} onChange={(event) => onChange(event.target.value)}>
        {fitting.map((role) => (
          <option key={role} value={role}>
            {role ? plainWords(role) : 'ordinary'}
          </option>
        ))}
      </select>
    </label>
  )
}
