package api

import (
	"errors"
	"log/slog"
	"sync"
	"time"

	"ojime/internal/work/feed"
)

// Wrong tokens from one place: so many are answered within a window, then all is
// refused from there until it is over.
const (
	wrongTokens = 10
	wrongWindow = time.Minute
	mostWatched = 1000
)

var errThrottled = errors.New("too many wrong tokens")

// throttle counts wrong tokens by where they came from.
type throttle struct {
	now   func() time.Time
	mu    sync.Mutex
	wrong map[string]*misses
}

type misses struct {
	since time.Time
	count int
}

func newThrottle(now func() time.Time) *throttle {
	return &throttle{now: now, wrong: map[string]*misses{}}
}

// watch runs a request that carries a token, unless too many wrong ones came from
// the same place.
func (t *throttle) watch(from string, request func() error) error {
	if t.closed(from) {
		return errThrottled
	}
	err := request()
	if errors.Is(err, feed.ErrNoDevice) {
		t.miss(from)
	}
	return err
}

func (t *throttle) closed(from string) bool {
	t.mu.Lock()
	defer t.mu.Unlock()
	m := t.wrong[from]
	return m != nil && m.count >= wrongTokens && t.now().Sub(m.since) < wrongWindow
}

func (t *throttle) miss(from string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	m := t.wrong[from]
	if m == nil || t.now().Sub(m.since) >= wrongWindow {
		if len(t.wrong) >= mostWatched {
			clear(t.wrong)
		}
		m = &misses{since: t.now()}
		t.wrong[from] = m
	}
	m.count++
	slog.Warn("a wrong device token was sent", "from", from, "times", m.count)
}
