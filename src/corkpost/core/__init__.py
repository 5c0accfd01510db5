"""The rules of the job, as pure functions over immutable values. See README.md beside this file."""
