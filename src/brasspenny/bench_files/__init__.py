"""The whole bench as open files, out and in. The format is told in docs/bench-format.md."""
