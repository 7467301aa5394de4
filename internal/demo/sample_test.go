package demo

import (
	"bytes"
	"crypto/rand"
	"flag"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work"
	"ojime/internal/work/publish"
)

var update = flag.Bool("update", false, "write docs/review anew from the demo")

// sampleDir holds the finished review that the README shows.
const sampleDir = "../../docs/review"

// samples reports a file of a review that stands in docs/review: its text, its cues, its pictures
// and the card of its first finding.
func samples(f publish.File) bool {
	return f.Name == "review.md" || f.Name == "script.md" || f.Name == "cards/N-01-wide.png" || strings.HasPrefix(f.Name, "plots/") || strings.HasPrefix(f.Name, "photographs/")
}

// sampleStands holds that the sample review is what the program writes of its demo, byte by byte.
func sampleStands(t *testing.T, s *store.Store, now time.Time) {
	t.Helper()
	w := work.New(s, func() time.Time { return now }, rand.Reader)
	reviews, err := w.Reviews.Reviews(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	at := slices.IndexFunc(reviews, func(r bench.Review) bool { return len(r.Blocks) > 0 })
	forms, err := w.Publish.Forms(t.Context(), reviews[at].ID)
	if err != nil {
		t.Fatal(err)
	}
	written := map[string]bool{}
	if *update {
		if err := os.RemoveAll(sampleDir); err != nil {
			t.Fatal(err)
		}
	}
	for _, f := range forms.Files {
		if !samples(f) {
			continue
		}
		path := filepath.Join(sampleDir, filepath.FromSlash(f.Name))
		written[filepath.Clean(path)] = true
		if *update {
			if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
				t.Fatal(err)
			}
			if err := os.WriteFile(path, f.Data, 0o644); err != nil {
				t.Fatal(err)
			}
		}
		if stands, err := os.ReadFile(path); err != nil || !bytes.Equal(stands, f.Data) {
			t.Errorf("%s is not what the program writes (%v); write it anew with go test ./internal/demo -run TheDemoIsARecord -update", f.Name, err)
		}
	}
	if len(written) < 10 {
		t.Errorf("the review has %d files that stand in docs/review", len(written))
	}
	err = filepath.WalkDir(sampleDir, func(path string, d os.DirEntry, err error) error {
		if err == nil && !d.IsDir() && !written[filepath.Clean(path)] {
			t.Errorf("%s is in docs/review, and the program writes no such file", path)
		}
		return err
	})
	if err != nil {
		t.Error(err)
	}
}
