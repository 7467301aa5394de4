package demo

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"
	_ "time/tzdata" // the zones of the test are known on every machine

	"ojime/internal/store"
	"ojime/internal/work"
)

// instants are when and where the demo is filled: a weekday, a weekend at midnight, the end of a
// month, a leap day, both changes of summer time, and places far east and west.
var instants = []struct{ at, zone string }{
	{"2026-11-01T12:00:00Z", "UTC"},
	{"2026-11-11T17:43:21Z", "UTC"},
	{"2026-12-05T08:00:00Z", "America/Los_Angeles"},
	{"2027-01-31T22:59:59Z", "Europe/Berlin"},
	{"2028-02-29T11:59:00Z", "Asia/Kolkata"},
	{"2026-03-29T00:30:00Z", "Europe/Berlin"},
	{"2026-10-25T03:10:00Z", "Europe/Berlin"},
	{"2027-07-04T06:15:00Z", "Pacific/Auckland"},
}

// filledAt names the instant at which a process of this test fills the demo, and toldIn the file
// in which it tells what came of it.
const filledAt, toldIn = "OJIME_DEMO_FILLED_AT", "OJIME_DEMO_TOLD_IN"

// The demo is the same story whenever and wherever it is filled: only dates move.
func TestTheDemoIsTheSameStoryAtEveryInstant(t *testing.T) {
	if at := os.Getenv(filledAt); at != "" {
		tellTo(t, at, os.Getenv(toldIn))
		return
	}
	told := make([]string, len(instants))
	t.Run("filled", func(t *testing.T) {
		for i, when := range instants {
			t.Run(when.at+" "+when.zone, func(t *testing.T) {
				t.Parallel()
				told[i] = fillElsewhere(t, when.at, when.zone)
			})
		}
	})
	for i, story := range told {
		if line, differ := firstDifference(told[0], story); differ {
			t.Errorf("filled at %s in %s, the story differs:\n%s", instants[i].at, instants[i].zone, line)
		}
	}
}

// fillElsewhere fills the demo in a process of its own, whose local time is that of a zone.
func fillElsewhere(t *testing.T, at, zone string) string {
	t.Helper()
	file := filepath.Join(t.TempDir(), "story")
	run := exec.CommandContext(t.Context(), os.Args[0], "-test.run", "^TestTheDemoIsTheSameStoryAtEveryInstant$")
	run.Env = append(os.Environ(), "TZ="+zone, filledAt+"="+at, toldIn+"="+file)
	if out, err := run.CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	story, err := os.ReadFile(file)
	if err != nil || len(story) < 100_000 {
		t.Fatalf("a story of %d bytes: %v", len(story), err)
	}
	return string(story)
}

func tellTo(t *testing.T, at, file string) {
	now, err := time.Parse(time.RFC3339, at)
	if err != nil {
		t.Fatal(err)
	}
	s, err := store.Open(t.Context(), t.TempDir())
	if err != nil {
		t.Fatal(err)
	}
	defer func() { _ = s.Close() }()
	if _, err := Fill(t.Context(), s, now.Local()); err != nil {
		t.Fatal(err)
	}
	story, err := tell(t.Context(), work.New(s, func() time.Time { return now }, rand.Reader))
	if err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(file, []byte(story), 0o600); err != nil {
		t.Fatal(err)
	}
}

// tell is everything on record, then what is found, advised and written of each review, without
// instants and what is made of them.
func tell(ctx context.Context, w *work.Work) (string, error) {
	var out strings.Builder
	var exported bytes.Buffer
	if err := w.Record.Export(ctx, &exported); err != nil {
		return "", err
	}
	var record map[string]any
	if err := json.Unmarshal(exported.Bytes(), &record); err != nil {
		return "", err
	}
	for _, apart := range []string{"meshes", "pictures", "panel_seals"} { // files, and what is encrypted with ids in it
		delete(record, apart)
	}
	all, err := w.Reviews.Reviews(ctx)
	if err != nil {
		return "", err
	}
	pages := []any{record}
	for _, review := range all {
		found, err := w.Findings.Sheet(ctx, review.ID)
		if err != nil {
			return "", err
		}
		suits, err := w.Readers.Sheet(ctx, review.ID)
		if err != nil {
			return "", err
		}
		text, err := w.Publish.WriteUp(ctx, review.ID)
		if err != nil {
			return "", err
		}
		pages = append(pages, found, suits, strings.Split(string(text), "\n"))
	}
	for _, page := range pages {
		if err := encodeLines(&out, page); err != nil {
			return "", err
		}
	}
	return timeless(out.String()), nil
}

func encodeLines(out *strings.Builder, page any) error {
	var text bytes.Buffer
	e := json.NewEncoder(&text)
	e.SetEscapeHTML(false)
	e.SetIndent("", " ")
	if err := e.Encode(page); err != nil {
		return fmt.Errorf("tell the story: %w", err)
	}
	out.Write(text.Bytes())
	return nil
}

var (
	instantMS = regexp.MustCompile(`\b1[5-9]\d{11}\b|\b1\.[5-9]\d+e\+12\b`)
	dayOfYear = regexp.MustCompile(`\b20\d\d-\d\d-\d\d(?:[ T]\d\d:\d\d(?::\d\d)?)?`)
	entryID   = regexp.MustCompile(`\b0[0-9a-hjkmnp-z]{17}\b`)
	contentOf = regexp.MustCompile(`\b[0-9a-f]{64}\b`)
)

// timeless leaves instants, days and hashes out, and numbers ids as they come.
func timeless(story string) string {
	for _, leave := range []*regexp.Regexp{instantMS, dayOfYear, contentOf} {
		story = leave.ReplaceAllString(story, "…")
	}
	numbers := map[string]string{}
	return entryID.ReplaceAllStringFunc(story, func(id string) string {
		if numbers[id] == "" {
			numbers[id] = fmt.Sprintf("id-%d", len(numbers))
		}
		return numbers[id]
	})
}

// firstDifference shows the first line in which two stories differ, with what stands before it.
func firstDifference(a, b string) (shown string, differ bool) {
	as, bs := strings.Split(a, "\n"), strings.Split(b, "\n")
	for i := range max(len(as), len(bs)) {
		if i >= len(as) || i >= len(bs) {
			return fmt.Sprintf("%d lines against %d", len(as), len(bs)), true
		}
		if as[i] != bs[i] {
			return strings.Join(as[max(0, i-8):i], "\n") + "\n- " + as[i] + "\n+ " + bs[i], true
		}
	}
	return "", false
}
