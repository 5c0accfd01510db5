"""For a server of several processes: `gunicorn -w 4 --threads 8 corkpost.api.wsgi:app`.

The practice is the folder in CORKPOST_DATA; its mail, bank and copies are named as for `corkpost serve`.
What only one process may do at a time is done by one of them, which the store elects.
"""

import atexit
import os
from pathlib import Path

from flask import Flask

from corkpost.api.app import create_app
from corkpost.api.server import hosts_of
from corkpost.services.background import background_of
from corkpost.services.copying import copier_of
from corkpost.services.jobs import Worker
from corkpost.services.leases import Lease
from corkpost.services.mail import mail_named
from corkpost.services.workplace import Workplace


def _made() -> Flask:
    os.umask(0o077)
    workplace = Workplace(Path(os.environ.get("CORKPOST_DATA", "data")))
    workplace.bank_address = os.environ.get("CORKPOST_BANK")
    workplace.mail = mail_named(os.environ)
    Worker(workplace, apart=True).start()
    for thread in background_of(workplace):
        thread.start()
    copier = copier_of(workplace, os.environ, Lease(workplace, "copies"))
    if copier is not None:
        copier.start()
        atexit.register(copier.stop)
    return create_app(workplace, hosts_of("localhost"))


app = _made()
