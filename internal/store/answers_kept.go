package store

import "slices"

// mostAnswersKept bounds how many answers are kept in memory: those of a few long reviews.
const mostAnswersKept = 128

// answersKept are lists that were read before, by what was asked. An answer stands until a transaction that changed one of the
// tables it is read from is committed: the connection that writes says of each row which table it is of, so that no way of
// writing can be forgotten.
type answersKept struct {
	known map[any]keptAnswer
}

// keptAnswer is one, as a transaction saw it that began at a commit.
type keptAnswer struct {
	began int64
	value any
}

// table is the name under which the last change of a table is kept.
func table(name string) string { return "table " + name }

// ask gives an answer, which is not to be changed, from memory while its tables are as they were. The key is a value of a type
// of its own, so that no two questions share an answer.
func ask[K comparable, V any](t *Tx, key K, tables []string, read func() (V, error)) (v V, err error) {
	if t.kept == nil {
		return read()
	}
	if err := t.beginToSee(); err != nil {
		return v, err
	}
	if known, stands := t.kept.answer(key, tables, t.began); stands {
		return known.(V), nil
	}
	if v, err = read(); err == nil {
		t.kept.keepAnswer(key, tables, v, t.began)
	}
	return v, err
}

// askList is ask for a list, and askLists for lists by run: what is appended to one lies elsewhere.
func askList[K comparable, E any](t *Tx, key K, tables []string, read func() ([]E, error)) ([]E, error) {
	return ask(t, key, tables, func() ([]E, error) {
		list, err := read()
		return slices.Clip(list), err
	})
}

func askLists[K comparable, E any](t *Tx, key K, tables []string, read func() (map[string][]E, error)) (map[string][]E, error) {
	return ask(t, key, tables, func() (map[string][]E, error) {
		lists, err := read()
		for run, list := range lists {
			lists[run] = slices.Clip(list)
		}
		return lists, err
	})
}

func (k *printsKept) answer(key any, tables []string, began int64) (any, bool) {
	k.mu.Lock()
	defer k.mu.Unlock()
	kept, there := k.answers.known[key]
	if !there || k.lastOf(tables) > min(kept.began, began) {
		return nil, false
	}
	k.answers.known[key] = keptAnswer{max(kept.began, began), kept.value}
	return kept.value, true
}

func (k *printsKept) keepAnswer(key any, tables []string, value any, began int64) {
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.lastOf(tables) > began || k.answers.known[key].began > began {
		return
	}
	if k.answers.known == nil || len(k.answers.known) >= mostAnswersKept {
		k.answers.known = map[any]keptAnswer{}
	}
	k.answers.known[key] = keptAnswer{began, value}
}

func (k *printsKept) lastOf(tables []string) int64 {
	last := k.before
	for _, name := range tables {
		last = max(last, k.changed[table(name)])
	}
	return last
}
