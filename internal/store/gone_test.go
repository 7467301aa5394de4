package store_test

import (
	"context"
	"errors"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/store/storetest"
)

// Who leaves a page while it is saved finds it saved; who leaves one that is only read is told that it ended, and not that
// anything might have been lost.
func TestWhoHasGoneFindsWhatWasSaved(t *testing.T) {
	s := storetest.Open(t)
	saving, leave := context.WithCancel(t.Context())
	entry := bench.Waste{ID: "w1", AtMS: 7, Kind: "scrap", Amount: 3, Unit: "g"}
	if err := s.Write(saving, func(tx *store.Tx) error {
		leave()
		return tx.SaveWaste(entry)
	}); err != nil {
		t.Fatal(err)
	}
	reading, leave := context.WithCancel(t.Context())
	kept := 0
	err := s.Read(reading, func(tx *store.Tx) error {
		all, err := tx.Waste()
		kept = len(all)
		leave()
		return err
	})
	if kept != 1 {
		t.Errorf("%d entries are on record", kept)
	}
	if err != nil && !errors.Is(err, context.Canceled) {
		t.Errorf("who left while reading is told %v", err)
	}
	// Who has gone before a change has begun has not asked for it any more.
	if err := s.Write(saving, func(*store.Tx) error { t.Error("it was begun"); return nil }); !errors.Is(err, context.Canceled) {
		t.Error(err)
	}
}
