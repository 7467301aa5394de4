package task

import (
	"errors"

	"ojime/internal/bench"
)

// IsMissing says that what was asked for is not on record.
func IsMissing(err error) bool { return errors.Is(err, bench.ErrNotFound) }

// Memoise remembers what get found for each id.
func Memoise[E any](get func(string) (E, error)) func(string) (E, error) {
	found := map[string]E{}
	return func(id string) (E, error) {
		if e, known := found[id]; known {
			return e, nil
		}
		e, err := get(id)
		if err == nil {
			found[id] = e
		}
		return e, err
	}
}
