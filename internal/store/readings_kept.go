package store

import (
	"math"
	"slices"
	"sync"

	"ojime/internal/bench"
)

// mostReadingsKept bounds how many readings are kept in memory, some 30 MB of them.
const mostReadingsKept = 100_000

// changing stands for a change that is being committed: whether a transaction sees it
// is not known yet.
const changing = math.MaxInt64

// readingsKept are readings of runs that were read before, so that a comparison of
// hundreds of prints reads anew only what was measured since. A transaction is given what
// its own state of the record holds: what was kept is used only where the last change of
// the readings was committed before both the transaction that read them and the one that
// asks began.
type readingsKept struct {
	mu      sync.Mutex
	commits int64            // of readings
	changed map[string]int64 // the last commit that changed the readings of a specimen
	before  int64            // the last commit that any specimen not in changed can have had
	known   map[string]keptReadings
	held    int // readings in known
}

// keptReadings are those of a run, as a transaction saw them that began at a commit.
type keptReadings struct {
	began    int64
	readings []bench.Reading
}

func newReadingsKept() *readingsKept {
	return &readingsKept{changed: map[string]int64{}, known: map[string]keptReadings{}}
}

// begin is asked before a transaction sees the record.
func (k *readingsKept) begin() int64 {
	k.mu.Lock()
	defer k.mu.Unlock()
	return k.commits
}

func (k *readingsKept) lastChange(specimens []bench.Specimen) int64 {
	last := k.before
	for _, s := range specimens {
		last = max(last, k.changed[s.ID])
	}
	return last
}

// of gives the readings of a run, which are not to be changed, to a transaction that began
// at a commit.
func (k *readingsKept) of(run string, specimens []bench.Specimen, began int64) ([]bench.Reading, bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	kept, there := k.known[run]
	if !there || k.lastChange(specimens) > min(kept.began, began) {
		return nil, false
	}
	return kept.readings, true
}

// keep holds what a transaction that began at a commit has read.
func (k *readingsKept) keep(run string, specimens []bench.Specimen, readings []bench.Reading, began int64) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.lastChange(specimens) > began || k.known[run].began > began {
		return
	}
	if k.held+len(readings) > mostReadingsKept {
		k.known, k.held = map[string]keptReadings{}, 0
	}
	k.held += len(readings) - len(k.known[run].readings)
	k.known[run] = keptReadings{began, slices.Clip(readings)}
}

// committing is said before the readings of specimens change.
func (k *readingsKept) committing(specimens map[string]bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	for id := range specimens {
		k.changed[id] = changing
	}
}

// committed is said after they changed, or may have.
func (k *readingsKept) committed(specimens map[string]bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.commits++
	for id := range specimens {
		k.changed[id] = k.commits
	}
	if len(k.changed) > mostReadingsKept {
		k.changed, k.before = map[string]int64{}, k.commits
	}
}
