package store

import (
	"slices"
	"sync"
)

// mostDerived bounds how much is kept that was worked out from kept lists: that of some 1,300 prints with 200 readings each
// takes 50 MB.
const mostDerived = 4000

// derivedKept is what was worked out from lists that are kept. It stands while they are the very same lists.
type derivedKept struct {
	mu    sync.Mutex
	known map[any]derived
}

type derived struct{ from, value any }

// List tells a list from others: the same list, however often it is asked for, is told alike. While it is held its place is
// not given to another.
type List[E any] struct {
	first *E
	n     int
}

// ListOf is what a list is told by.
func ListOf[E any](list []E) List[E] {
	if len(list) == 0 {
		return List[E]{}
	}
	return List[E]{&list[0], len(list)}
}

// Derived gives what was worked out from lists that are kept, and from nothing else, while those are the same ones: from tells
// them, and holds all else that the work depends on. Where the transaction writes it is worked out each time. The key is a value
// of a type of its own; what is given is not to be changed.
func Derived[K, F comparable, V any](t *Tx, key K, from F, work func() V) V {
	return derive(t, key, func(known any) bool { return known == any(from) }, from, work)
}

// DerivedOf is Derived from parts that are told by where they are.
func DerivedOf[K comparable, P, V any](t *Tx, key K, parts []*P, work func() V) V {
	return derive(t, key, func(known any) bool { return slices.Equal(known.([]*P), parts) }, parts, work)
}

func derive[K comparable, V any](t *Tx, key K, same func(known any) bool, from any, work func() V) V {
	if t.kept == nil {
		return work()
	}
	k := &t.kept.derived
	k.mu.Lock()
	known, there := k.known[key]
	k.mu.Unlock()
	if there && same(known.from) {
		return known.value.(V)
	}
	v := work()
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.known == nil || len(k.known) >= mostDerived {
		k.known = map[any]derived{}
	}
	k.known[key] = derived{from, v}
	return v
}
