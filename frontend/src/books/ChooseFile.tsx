import { Link } from 'react-router'
import { useClientCode } from '../frame/useClientCode'
import { Dialog } from '../ui/Dialog'

interface ChooseFileProps {
  onFile: (file: File | undefined) => void
  onClose: () => void
}

/** Asks for the file, where none was dropped. */
export function ChooseFile({ onFile, onClose }: ChooseFileProps) {
  const client = useClientCode()
  return (
    <Dialog title="Take in a file" onClose={onClose}>
      <div className="space-y-3">
        <p>
          Newer books of this client as a .zip, a standard audit file (.xml), or a statement that
          the bank gives out: OFX, camt.053, MT940, CSV or a spreadsheet. What it is, is seen from
          what is in it.
        </p>
        <p>
          A ledger, trial balance or open items in their own columns?{' '}
          <Link className="text-tide underline" to={`/take-in?client=${client}`}>
            Take in what they sent
          </Link>
        </p>
        <input
          type="file"
          aria-label="Choose a file to take in"
          onChange={(event) => onFile(event.target.files?.[0])}
        />
        <p className="text-quiet">
          What is here already is not taken in twice, and a file with a fault is refused whole.
        </p>
      </div>
    </Dialog>
  )
}
