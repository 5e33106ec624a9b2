"""The rules of the job: pure functions on typed values. Derivations are in docs/methods.md."""
