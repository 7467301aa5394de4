package printing

import (
	"errors"
	"fmt"

	"ojime/internal/bench"
)

// reference reads a reference as if it were a print: its copies are specimens, and nothing
// is known of machine, resin, settings or time. A reference that is not on record is
// bench.ErrNotFound.
func (r *Reader) reference(id string) (s *RunSheet, err error) {
	ref, err := r.t.Reference(id)
	switch {
	case errors.Is(err, bench.ErrNotFound):
		return s, fmt.Errorf("run %s: %w", id, bench.ErrNotFound)
	case err != nil:
		return s, err
	}
	readings, err := r.t.ReadingsOfReference(id)
	if err != nil {
		return s, err
	}
	s = &RunSheet{Reference: &ref, Run: bench.Run{ID: ref.ID, Code: ref.Code, Surface: ref.Surface, Copies: ref.Copies}, Specimens: ref.Specimens(), SetAside: []string{}}
	s.Took = bench.Took{Reason: "no print on record made it"}
	all := make([]bench.Reading, len(readings))
	for i, reading := range readings {
		all[i] = reading.Of(ref)
	}
	s.Readings, s.Corrected = counting(all)
	if s.Doubtful, err = r.Doubtful(s.Readings); err != nil {
		return s, err
	}
	ratings, err := r.t.RatingsOfReference(id)
	if err != nil {
		return s, err
	}
	if s.Ratings, s.Rerated, err = r.rated(ratings); err != nil {
		return s, err
	}
	photographs, err := r.t.PhotographsOfReference(id)
	if err != nil {
		return s, err
	}
	if s.Photographs, err = r.pictured(photographs); err != nil {
		return s, err
	}
	s.sortOnce(r.t)
	return s, s.readPieces(r.Lookup)
}
