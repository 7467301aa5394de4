package store

import (
	"math"
	"slices"
	"sync"

	"ojime/internal/bench"
)

// mostReadingsKept and mostSpecimensKept bound how many readings and specimens are kept in memory: some 60 MB of the
// first, 15 MB of the second. A review of twelve set-ups with fifty prints each holds half as many.
const (
	mostReadingsKept  = 250_000
	mostSpecimensKept = 50_000
)

// changing stands for a change that is being committed: whether a transaction sees it
// is not known yet.
const changing = math.MaxInt64

// printsKept are specimens and readings of runs that were read before, so that a comparison
// of hundreds of prints reads anew only what was judged and measured since. A transaction is
// given what its own state of the record holds: what was kept is used only where its last
// change was committed before both the transaction that read it and the one that asks began.
type printsKept struct {
	mu      sync.Mutex
	commits int64 // that changed anything
	// committingNow is how many changes are being committed.
	committingNow int
	// changed is the last commit that changed the specimens of a run, by its id, a specimen or its readings, by that id, or a
	// table, by its name.
	changed   map[string]int64
	before    int64 // the last commit that any not in changed can have had
	specimens keptLists[bench.Specimen]
	readings  keptLists[bench.Reading]
	answers   answersKept
	derived   derivedKept
}

// keptLists are lists by run.
type keptLists[E any] struct {
	known      map[string]keptList[E]
	held, most int // entries of all lists
}

// keptList is a list of a run, as a transaction saw it that began at a commit.
type keptList[E any] struct {
	began int64
	list  []E
}

func newPrintsKept() *printsKept {
	return &printsKept{changed: map[string]int64{}, specimens: keptLists[bench.Specimen]{most: mostSpecimensKept}, readings: keptLists[bench.Reading]{most: mostReadingsKept}}
}

// begin is asked before a transaction sees the record.
func (k *printsKept) begin() int64 {
	k.mu.Lock()
	defer k.mu.Unlock()
	return k.commits
}

func (k *printsKept) lastChange(run string, specimens []bench.Specimen) int64 {
	last := max(k.before, k.changed[run])
	for _, s := range specimens {
		last = max(last, k.changed[s.ID])
	}
	return last
}

// judgedIn are the tables that hold specimens and their readings.
var judgedIn = []string{"specimen", "defect", "reading"}

// stands says whether what a transaction that began at one commit has read of a run is what another sees. It is asked for every
// print of a review: where no specimen and no reading was written since, none is looked at.
func (k *printsKept) stands(run string, specimens []bench.Specimen, kept, began int64) bool {
	at := min(kept, began)
	return k.lastOf(judgedIn) <= at || k.lastChange(run, specimens) <= at
}

// specimensOf gives the specimens of a run, which are not to be changed, to a transaction that began at a commit.
func (k *printsKept) specimensOf(run string, began int64) ([]bench.Specimen, bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	kept, there := k.specimens.known[run]
	if !there || !k.stands(run, kept.list, kept.began, began) {
		return nil, false
	}
	k.specimens.known[run] = keptList[bench.Specimen]{max(kept.began, began), kept.list}
	return kept.list, true
}

// readingsOf gives the readings of a run, which are not to be changed, to a transaction that began at a commit.
func (k *printsKept) readingsOf(run string, specimens []bench.Specimen, began int64) ([]bench.Reading, bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	kept, there := k.readings.known[run]
	if !there || !k.stands(run, specimens, kept.began, began) {
		return nil, false
	}
	k.readings.known[run] = keptList[bench.Reading]{max(kept.began, began), kept.list}
	return kept.list, true
}

// keepSpecimens holds what a transaction that began at a commit has read.
func (k *printsKept) keepSpecimens(run string, list []bench.Specimen, began int64) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.lastChange(run, list) <= began {
		k.specimens.keep(run, list, began)
	}
}

// keepReadings holds what a transaction that began at a commit has read.
func (k *printsKept) keepReadings(run string, specimens []bench.Specimen, list []bench.Reading, began int64) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.lastChange(run, specimens) <= began {
		k.readings.keep(run, list, began)
	}
}

func (l *keptLists[E]) keep(run string, list []E, began int64) {
	if l.known[run].began > began {
		return
	}
	if l.known == nil || l.held+len(list) > l.most {
		l.known, l.held = map[string]keptList[E]{}, 0
	}
	l.held += len(list) - len(l.known[run].list)
	l.known[run] = keptList[E]{began, slices.Clip(list)}
}

// committing is said before runs, specimens and tables change.
func (k *printsKept) committing(ids map[string]bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.committingNow++
	for id := range ids {
		k.changed[id] = changing
	}
}

// committed is said after they changed, or may have.
func (k *printsKept) committed(ids map[string]bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	k.committingNow--
	k.commits++
	for id := range ids {
		k.changed[id] = k.commits
	}
	if len(k.changed) > mostReadingsKept {
		k.changed, k.before = map[string]int64{}, k.commits
	}
}
