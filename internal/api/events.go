package api

import (
	"encoding/json"
	"fmt"
	"net/http"
	"slices"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
)

// hub tells every open page that the record changed, and hands on readings that
// devices send.
type hub struct {
	mu        sync.Mutex
	listeners map[*listener]bool
}

// listener is an open page: the changes it has yet to hear of, and readings on their
// way to it.
type listener struct {
	change   chan struct{}
	waiting  change // guarded by the hub
	readings chan []byte
}

// change says which kinds of entry changed and, where one command did it all, its
// id, so that the page that sent it need not look again.
type change struct {
	Of []string `json:"of"`
	By string   `json:"by"`
}

// waitingReadings is how many readings wait for a slow page; what is more is
// dropped, since only the newest is wanted in a field.
const waitingReadings = 32

func newHub() *hub { return &hub{listeners: map[*listener]bool{}} }

// tell says that a kind of entry was changed by a command. It never blocks: changes
// that a page has not heard of yet are told together.
func (h *hub) tell(kind, by string) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for l := range h.listeners {
		if len(l.waiting.Of) == 0 {
			l.waiting.By = by
		} else if l.waiting.By != by {
			l.waiting.By = ""
		}
		if !slices.Contains(l.waiting.Of, kind) {
			l.waiting.Of = append(l.waiting.Of, kind)
		}
		select {
		case l.change <- struct{}{}:
		default:
		}
	}
}

// send hands a reading on; a page that is too slow misses the oldest news, not the
// others.
func (h *hub) send(reading []byte) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for l := range h.listeners {
		select {
		case l.readings <- reading:
		default:
		}
	}
}

// news is what a page has yet to hear of, as a line of its stream; empty where that was told with the change before it.
func (h *hub) news(l *listener) (line string, err error) {
	of := h.heard(l)
	if len(of.Of) == 0 {
		return "", nil
	}
	told, err := json.Marshal(of)
	return fmt.Sprintf("event: change\ndata: %s\n\n", told), err
}

// heard takes what a page has yet to hear of.
func (h *hub) heard(l *listener) change {
	h.mu.Lock()
	defer h.mu.Unlock()
	out := l.waiting
	l.waiting = change{}
	return out
}

// mostListeners bounds the streams that are open at a time: every window of every
// browser in a workshop, and some more.
const mostListeners = 64

// listen adds an open page; nil where there are too many.
func (h *hub) listen() (*listener, func()) {
	l := &listener{change: make(chan struct{}, 1), readings: make(chan []byte, waitingReadings)}
	h.mu.Lock()
	defer h.mu.Unlock()
	if len(h.listeners) >= mostListeners {
		return nil, func() {}
	}
	h.listeners[l] = true
	return l, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		delete(h.listeners, l)
	}
}

// keepAlive is how often a silent stream shows that it lives.
const keepAlive = 25 * time.Second

// stream sends an event for each change until the page goes away, or until its session is over, which is asked
// at every beat.
func (s *server) stream(c *echo.Context) error {
	h := s.changes
	l, leave := h.listen()
	defer leave()
	if l == nil {
		return writeProblem(c, plainProblem(http.StatusServiceUnavailable, fmt.Sprintf("%d pages are open already; close some of them.", mostListeners)))
	}
	w := http.NewResponseController(c.Response())
	_ = w.SetReadDeadline(time.Time{}) // a stream stays open; a recorder in a test has no deadline
	c.Response().Header().Set("Content-Type", "text/event-stream")
	c.Response().Header().Set("Cache-Control", "no-store")
	beat := time.NewTicker(keepAlive)
	defer beat.Stop()
	line := ": open\n\n"
	for {
		if _, err := fmt.Fprint(c.Response(), line); err != nil {
			return nil // the page is gone
		}
		if err := w.Flush(); err != nil {
			return nil
		}
		select {
		case <-c.Request().Context().Done():
			return nil
		case <-l.change:
			var err error
			if line, err = h.news(l); err != nil {
				return err
			}
		case data := <-l.readings:
			line = fmt.Sprintf("event: reading\ndata: %s\n\n", data)
		case <-beat.C:
			if session, in := sessionOf(c.Request().Context()); in && !s.place.Door.Alive(session.ID) {
				return nil
			}
			line = ": alive\n\n"
		}
	}
}
