"""The books folder: a client's books as CSV tables beside a datapackage.json, in a folder or a zip.

`reading.read_books` gives values or every fault at once; `writing.write_books` writes the same form.
`columns` declares the tables once for both.
"""
