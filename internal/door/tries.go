package door

import (
	"sync"
	"time"
)

// Wrong passphrases and codes: so many from one place, and so many from all, within a minute; then all is
// refused from there, or from everywhere, until it is over. Those who are in stay in.
const (
	mostFromOne = 5
	mostFromAll = 30
	within      = time.Minute
	mostPlaces  = 1000
)

type tries struct {
	now  func() time.Time
	mu   sync.Mutex
	from map[string][]time.Time
	all  []time.Time
}

func newTries(now func() time.Time) *tries { return &tries{now: now, from: map[string][]time.Time{}} }

func (t *tries) recent(at []time.Time) (out []time.Time) {
	for _, a := range at {
		if t.now().Sub(a) < within {
			out = append(out, a)
		}
	}
	return out
}

func (t *tries) closed(from string) bool {
	t.mu.Lock()
	defer t.mu.Unlock()
	return len(t.recent(t.from[from])) >= mostFromOne || len(t.recent(t.all)) >= mostFromAll
}

func (t *tries) miss(from string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	if len(t.from) >= mostPlaces {
		clear(t.from)
	}
	t.from[from] = append(t.recent(t.from[from]), t.now())
	t.all = append(t.recent(t.all), t.now())
}
