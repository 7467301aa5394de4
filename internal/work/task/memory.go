package task

import (
	"container/list"
	"sync"
)

// Memory keeps answers that took long for as long as the record is as it was. It holds
// a few, of which the one that was asked for longest ago goes first, and works each out
// once however many ask for it at the same time.
type Memory struct {
	mu    sync.Mutex
	at    int64
	known map[any]*list.Element
	order list.List // the last asked for in front
}

// remembered bounds how many answers are kept.
const remembered = 32

// answer is one that is kept, or being worked out.
type answer struct {
	key   any
	ready chan struct{}
	value any
	err   error
}

// Recall answers from memory, or works it out and keeps it. at is the count of changes
// to the record before the answer was read. The key is a value of a type of its own, so
// that no two questions share an answer.
func Recall[K comparable, E any](m *Memory, at int64, key K, work func() (E, error)) (E, error) {
	a, mine := m.find(at, key)
	if mine {
		var value E
		value, a.err = work()
		a.value = value
		if a.err != nil {
			m.forget(a)
		}
		close(a.ready)
		return value, a.err
	}
	<-a.ready
	if a.err != nil { // who asked first may have gone away; that is no answer for others
		return work()
	}
	return a.value.(E), nil
}

// find gives the answer to a question, and whether the caller is to work it out.
func (m *Memory) find(at int64, key any) (a *answer, mine bool) {
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.known == nil || m.at < at {
		m.at, m.known = at, map[any]*list.Element{}
		m.order.Init()
	}
	if m.at > at { // asked of the record as it was before: told, and not kept
		return &answer{key: key, ready: make(chan struct{})}, true
	}
	if e, there := m.known[key]; there {
		m.order.MoveToFront(e)
		return e.Value.(*answer), false
	}
	a = &answer{key: key, ready: make(chan struct{})}
	m.known[key] = m.order.PushFront(a)
	if m.order.Len() > remembered {
		last := m.order.Back()
		delete(m.known, m.order.Remove(last).(*answer).key)
	}
	return a, true
}

func (m *Memory) forget(a *answer) {
	m.mu.Lock()
	defer m.mu.Unlock()
	if e, there := m.known[a.key]; there && e.Value.(*answer) == a {
		m.order.Remove(e)
		delete(m.known, a.key)
	}
}
