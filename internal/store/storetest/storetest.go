// Package storetest opens empty records for tests. Bringing a new file to the schema of today
// takes a quarter of a second; it is done once, and every test gets a copy.
package storetest

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"testing"

	"ojime/internal/store"
)

// database is the file of a record in its folder.
const database = "ojime.db"

// empty is an empty record's file, as it stands when it is closed.
var empty = sync.OnceValues(func() ([]byte, error) {
	dir, err := os.MkdirTemp("", "ojime-empty-")
	if err != nil {
		return nil, fmt.Errorf("make room for an empty record: %w", err)
	}
	defer os.RemoveAll(dir)
	s, err := store.Open(context.Background(), dir)
	if err != nil {
		return nil, err
	}
	if err := s.Close(); err != nil {
		return nil, err
	}
	return os.ReadFile(filepath.Join(dir, database))
})

// Open opens an empty record in a folder of the test's own, and closes it when the test ends.
func Open(t testing.TB) *store.Store {
	t.Helper()
	s, err := store.Open(t.Context(), Dir(t))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		if err := s.Close(); err != nil {
			t.Error(err)
		}
	})
	return s
}

// Dir is a folder of the test's own with an empty record in it.
func Dir(t testing.TB) string {
	t.Helper()
	data, err := empty()
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	if err := os.WriteFile(filepath.Join(dir, database), data, 0o600); err != nil {
		t.Fatal(err)
	}
	return dir
}
