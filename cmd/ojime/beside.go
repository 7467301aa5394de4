package main

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"net"
	"net/http"
	"os"
	"path/filepath"
	"sync"
	"time"

	"ojime/internal/api"
	"ojime/internal/api/ui"
	"ojime/internal/store"
	"ojime/internal/work"
)

// beside serves further records on this machine alone, each at an address of its own: bundles that are looked at, and the demo.
type beside struct {
	ctx  context.Context
	temp string
	now  func() time.Time
	// fill makes the demo.
	fill func(ctx context.Context, s *store.Store, now time.Time) (bool, error)

	mu   sync.Mutex
	demo string
	ends []func() error
}

// serve serves a record by a clock of its own until it is ended.
func (b *beside) serve(s *store.Store, now func() time.Time) (address string, end func() error, err error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return "", nil, fmt.Errorf("find an address beside this one: %w", err)
	}
	ctx, stop := context.WithCancel(b.ctx)
	server := &http.Server{Handler: api.New(ctx, work.New(s, now, rand.Reader), ui.Files(), api.Place{}), ReadHeaderTimeout: headerTimeout, ReadTimeout: readTimeout,
		BaseContext: func(net.Listener) context.Context { return ctx }}
	done := make(chan error, 1)
	go func() { done <- server.Serve(l) }()
	end = sync.OnceValue(func() error {
		stop() // streams end with it
		last, cancel := context.WithTimeout(context.WithoutCancel(ctx), shutdownTimeout)
		defer cancel()
		err := server.Shutdown(last) // who is still being answered has the record until then
		if errors.Is(err, context.DeadlineExceeded) {
			err = server.Close()
		}
		if served := <-done; !errors.Is(served, http.ErrServerClosed) {
			err = errors.Join(err, served)
		}
		return err
	})
	return "http://" + l.Addr().String(), end, nil
}

// bundle serves the record of a bundle as it was when the bundle was made.
func (b *beside) bundle(s *store.Store, at time.Time) (string, func() error, error) {
	return b.serve(s, func() time.Time { return at })
}

// showDemo fills a record of its own with the demo and serves it; asked again, it says where it is. It ends with the program.
func (b *beside) showDemo(ctx context.Context) (string, error) {
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.demo != "" {
		return b.demo, nil
	}
	dir := filepath.Join(b.temp, "demo")
	if err := errors.Join(os.RemoveAll(dir), os.MkdirAll(dir, 0o700)); err != nil {
		return "", fmt.Errorf("make room for the demo: %w", err)
	}
	s, err := store.Open(ctx, dir)
	if err != nil {
		return "", err
	}
	if _, err := b.fill(ctx, s, b.now()); err != nil {
		return "", errors.Join(err, s.Close())
	}
	address, end, err := b.serve(s, b.now)
	if err != nil {
		return "", errors.Join(err, s.Close())
	}
	b.demo, b.ends = address, append(b.ends, func() error { return errors.Join(end(), s.Close()) })
	return address, nil
}

// close ends what is served beside.
func (b *beside) close() error {
	b.mu.Lock()
	defer b.mu.Unlock()
	var errs []error
	for _, end := range b.ends {
		errs = append(errs, end())
	}
	return errors.Join(errs...)
}
