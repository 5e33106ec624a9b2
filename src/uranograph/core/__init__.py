"""The rules of the job: pure functions on typed values. Derivations stand in docs/methods.md."""
