package main

import (
	"context"
	"io"
	"net/http"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/store"
)

// The demo is made once, in a record of its own, and answers at an address of its own until the program ends.
func TestTheDemoStandsBeside(t *testing.T) {
	made := 0
	others := &beside{ctx: t.Context(), now: time.Now, temp: t.TempDir(), fill: func(ctx context.Context, s *store.Store, now time.Time) (bool, error) {
		made++
		return true, s.Write(ctx, func(tx *store.Tx) error {
			return tx.SaveRemark(bench.Remark{})
		})
	}}
	if _, err := others.showDemo(t.Context()); err == nil {
		t.Error("a demo that could not be filled was shown")
	}
	others.fill = func(context.Context, *store.Store, time.Time) (bool, error) {
		made++
		return true, nil
	}
	first, err := others.showDemo(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	again, err := others.showDemo(t.Context())
	if err != nil || again != first || made != 2 {
		t.Errorf("%s, then %s, made %d times (%v)", first, again, made, err)
	}
	res, err := http.Get(first + "/healthz")
	if err != nil {
		t.Fatal(err)
	}
	body, err := io.ReadAll(res.Body)
	_ = res.Body.Close()
	if err != nil || string(body) != "ok" || !strings.HasPrefix(first, "http://127.0.0.1:") {
		t.Errorf("%s answers %q (%v)", first, body, err)
	}
	if err := others.close(); err != nil {
		t.Error(err)
	}
	if _, err := http.Get(first + "/healthz"); err == nil {
		t.Error("it answers after it was ended")
	}
}
