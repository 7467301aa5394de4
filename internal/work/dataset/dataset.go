// Package dataset writes what a review rests on as open tables: its prints with their settings and conditions, every reading
// that was taken of them, and what was judged from those, as CSV with the hash of each file.
package dataset

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/rating"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/experiment"
	"ojime/internal/work/findings"
	"ojime/internal/work/inspect"
	"ojime/internal/work/ledger"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct{ *task.Base }

// New makes them.
func New(base *task.Base) *Tasks { return &Tasks{base} }

// Recorded are the tables of what was recorded, Judged those of what comparisons came to.
var (
	Recorded = []string{"settings", "runs", "specimens", "readings", "ratings", "photographs", "stress", "forms", "machine-ratings", "sliced-files", "room-readings", "remarks", "ballots"}
	Judged   = []string{"findings", "claims"}
)

// Names are all tables of a review.
var Names = slices.Concat(Recorded, Judged)

// linesOf writes each table.
var linesOf = map[string]func(Source) *lines{
	"settings":        listed(settingsRows),
	"runs":            listed(runRows),
	"specimens":       specimenLines,
	"readings":        readingLines,
	"ratings":         listed(ratingRows),
	"photographs":     listed(photographRows),
	"stress":          listed(stressRows),
	"forms":           listed(formRows),
	"machine-ratings": listed(machineRatingRows),
	"sliced-files":    listed(slicedRows),
	"room-readings":   listed(roomRows),
	"remarks":         listed(remarkRows),
	"ballots":         listed(ballotRows),
	"findings":        listed(findingRows),
	"claims":          listed(claimRows),
}

// Source is what tables are written from.
type Source struct {
	Review bench.Review
	// Sheets are its prints in the order in which they began, References what they are held against: those have readings as
	// prints do, and no rows of runs and specimens.
	Sheets     []*printing.RunSheet
	References []*printing.RunSheet
	// Plan is what was planned, which tells which print of its machine each was to be.
	Plan   experiment.PlanSheet
	Scales []rating.Scale
	Living []Lived
	Sliced []SlicedFile
	Panels []ballots.Shown
	// Findings and Claims are for the judged tables alone.
	Findings findings.FindingsSheet
	Claims   ledger.LedgerSheet
	// measuredOn says of each piece what is measured on it.
	measuredOn map[string]string
	t          *store.Tx
}

// Read reads all but what is judged.
func Read(t *store.Tx, reader *printing.Reader, review bench.Review, setups []reviews.SetUp) (s Source, err error) {
	s.Review, s.t = review, t
	if s.Sheets, err = runsOf(reader, review, setups); err != nil {
		return s, err
	}
	if s.References, err = reader.Sheets(review.ReferenceIDs...); err != nil {
		return s, err
	}
	s.measuredOn = measuredOn(slices.Concat(s.Sheets, s.References))
	if s.Plan, err = experiment.PlanOf(t, review.ID); err != nil {
		return s, err
	}
	if s.Scales, err = inspect.AllScales(t); err != nil {
		return s, err
	}
	if s.Living, err = livingOf(t, setups); err != nil {
		return s, err
	}
	if s.Sliced, err = slicedOf(t, s.Sheets); err != nil {
		return s, err
	}
	s.Panels, err = ballots.Closed(t, review.ID)
	return s, err
}

// Table writes one table of a review as CSV: one header row with units in the names, an empty cell for what is not known.
func (w *Tasks) Table(ctx context.Context, reviewID, table string) (out []byte, err error) {
	if linesOf[table] == nil {
		return nil, fmt.Errorf("table %q: %w", table, bench.ErrNotFound)
	}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		review, err := t.Review(reviewID)
		if err != nil {
			return err
		}
		setups, err := reviews.SetUps(t, review)
		if err != nil {
			return err
		}
		reader := printing.NewReader(t)
		of, err := Read(t, reader, review, setups)
		if err != nil {
			return err
		}
		switch table { // the comparisons behind these take their time
		case "findings":
			of.Findings, err = findings.SheetOf(t, reviewID)
		case "claims":
			of.Claims, err = w.claims(t, reader, review, setups)
		}
		if err != nil {
			return err
		}
		out = linesOf[table](of).text
		return nil
	})
	return out, err
}

func (w *Tasks) claims(t *store.Tx, reader *printing.Reader, review bench.Review, setups []reviews.SetUp) (ledger.LedgerSheet, error) {
	contests, err := reviews.Contests(t, reader, review, setups)
	if err != nil {
		return ledger.LedgerSheet{}, err
	}
	return ledger.Of(t, reader, review, setups, contests, w.NowMS())
}

// Table is a table of a review with its hash, so that who has the file can tell that it is the one.
type Table struct {
	Name   string
	Rows   int
	SHA256 string
	CSV    []byte
}

// Tables are those of some tables of a review that have rows.
func Tables(of Source, names []string) (out []Table) {
	for _, name := range names {
		if l := linesOf[name](of); l.rows > 0 {
			out = append(out, Table{name, l.rows, of.hash(name, l), l.text})
		}
	}
	return out
}

// hashKey is under which the hash of a table is kept.
type hashKey struct{ reviewID, table string }

// hash is that of a table; while it is the one that was kept it is not worked out anew.
func (of Source) hash(table string, l *lines) string {
	return store.Derived(of.t, hashKey{of.Review.ID, table}, l, func() string {
		sum := sha256.Sum256(l.text)
		return hex.EncodeToString(sum[:])
	})
}
