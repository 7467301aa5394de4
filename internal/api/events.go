package api

import (
	"fmt"
	"net/http"
	"sync"
	"time"

	"github.com/labstack/echo/v5"
)

// hub tells every open page that the record changed.
type hub struct {
	mu        sync.Mutex
	listeners map[chan struct{}]bool
}

func newHub() *hub { return &hub{listeners: map[chan struct{}]bool{}} }

// tell never blocks: a listener that has one change waiting needs no second.
func (h *hub) tell() {
	h.mu.Lock()
	defer h.mu.Unlock()
	for l := range h.listeners {
		select {
		case l <- struct{}{}:
		default:
		}
	}
}

func (h *hub) listen() (chan struct{}, func()) {
	l := make(chan struct{}, 1)
	h.mu.Lock()
	defer h.mu.Unlock()
	h.listeners[l] = true
	return l, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		delete(h.listeners, l)
	}
}

// keepAlive is how often a silent stream shows that it lives.
const keepAlive = 25 * time.Second

// stream sends an event for each change until the page goes away.
func (h *hub) stream(c *echo.Context) error {
	w := http.NewResponseController(c.Response())
	c.Response().Header().Set("Content-Type", "text/event-stream")
	c.Response().Header().Set("Cache-Control", "no-store")
	changes, leave := h.listen()
	defer leave()
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
		case <-changes:
			line = "event: change\ndata: {}\n\n"
		case <-beat.C:
			line = ": alive\n\n"
		}
	}
}
