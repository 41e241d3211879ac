"""One kitchen in one file that anybody can read: a zip of NDJSON, with a manifest that says what is in it.

It holds no passwords, tokens, secrets or addresses. Plans of days and practice are left
out; a backup has them.
"""
