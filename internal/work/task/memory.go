package task

import (
	"fmt"
	"sync"
)

// memory keeps answers that took long for as long as the record is as it was. It
// holds a few; the oldest goes first.
type memory struct {
	mu    sync.Mutex
	at    int64
	keys  []string
	found map[string]any
}

// remembered bounds how many answers are kept.
const remembered = 32

// Recall answers from memory, or works it out and keeps it. at is the count of
// changes to the record before the answer was read.
func Recall[E any](m *memory, at int64, key any, work func() (E, error)) (E, error) {
	name := fmt.Sprintf("%T %+v", key, key)
	m.mu.Lock()
	if m.found == nil || m.at != at {
		m.at, m.keys, m.found = at, nil, map[string]any{}
	}
	known, there := m.found[name]
	m.mu.Unlock()
	if there {
		return known.(E), nil
	}
	out, err := work()
	if err != nil {
		return out, err
	}
	m.mu.Lock()
	defer m.mu.Unlock()
	if m.at == at {
		if len(m.keys) == remembered {
			delete(m.found, m.keys[0])
			m.keys = m.keys[1:]
		}
		m.keys, m.found[name] = append(m.keys, name), out
	}
	return out, nil
}
