// Package ledger holds what is claimed of the machines and resins of a review against what was measured.
package ledger

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/claims"
	"ojime/internal/core/quantity"
	"ojime/internal/say"
	"ojime/internal/store"
	"ojime/internal/work/kit"
	"ojime/internal/work/printing"
	"ojime/internal/work/reviews"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
}

// New makes them.
func New(base *task.Base) *Tasks { return &Tasks{base} }

// LedgerRow is a claim with what became of it. Claim is nil where it stands with a machine, resin or knot of the kit and was
// not taken into the ledger; Key tells such a claim apart. Number is what is claimed as a number, in words, Says what was
// measured for it, Why why it is so far from being told.
type LedgerRow struct {
	Claim   *bench.LedgerClaim `json:"claim"`
	Key     string             `json:"key"`
	Subject string             `json:"subject"`
	// MachineID, ResinID and EventID are what it is claimed of; empty where it is not.
	MachineID string `json:"machine_id"`
	ResinID   string `json:"resin_id"`
	EventID   string `json:"event_id"`
	Words     string `json:"words"`
	Number    string `json:"number"`
	Base      string `json:"base"`
	Source    string `json:"source"`
	Interest  string `json:"interest"`
	Test      string `json:"test"`
	State     string `json:"state" enum:"met,partly,not_met,cannot_tell,untested,untestable"`
	Judged    bool   `json:"judged"`
	Says      string `json:"says"`
}

// LedgerSheet is the ledger of a review: every claim of its machines, resins and matter, the undecided ones too. Measures are
// what a claim may be about in its comparisons.
type LedgerSheet struct {
	Rows     []LedgerRow     `json:"rows"`
	Measures []LedgerMeasure `json:"measures"`
	Counts   []LedgerCount   `json:"counts"`
}

// LedgerMeasure is a row of a review's comparisons with the unit that a claim of it is in.
type LedgerMeasure struct {
	Key   string `json:"key"`
	Label string `json:"label"`
	Unit  string `json:"unit"`
}

// LedgerCount is how many claims are in a state.
type LedgerCount struct {
	State string `json:"state"`
	N     int64  `json:"n"`
}

type ledgerKey struct{ review string }

// Sheet reads the ledger of a review.
func (w *Tasks) Sheet(ctx context.Context, reviewID string) (out LedgerSheet, err error) {
	return task.Recall(&w.Memory, w.Store.Changes(), ledgerKey{reviewID}, func() (LedgerSheet, error) {
		err = w.Store.Read(ctx, func(t *store.Tx) error {
			out, err = w.sheetOf(t, reviewID)
			return err
		})
		return out, err
	})
}

func (w *Tasks) sheetOf(t *store.Tx, reviewID string) (LedgerSheet, error) {
	review, err := t.Review(reviewID)
	if err != nil {
		return LedgerSheet{}, err
	}
	setups, err := reviews.SetUps(t, review)
	if err != nil {
		return LedgerSheet{}, err
	}
	reader := printing.NewReader(t)
	contests, err := reviews.Contests(t, reader, review, setups)
	if err != nil {
		return LedgerSheet{}, err
	}
	return Of(t, reader, review, setups, contests, w.NowMS())
}

// Of is the ledger of a review whose contests are known already.
func Of(t *store.Tx, reader *printing.Reader, review bench.Review, setups []reviews.SetUp, contests []reviews.Contest, nowMS int64) (LedgerSheet, error) {
	b := book{t: t, reader: reader, review: review, setups: setups, contests: contests, nowMS: nowMS, lookup: kit.NewLookup(t)}
	out := LedgerSheet{Rows: []LedgerRow{}, Measures: b.measures(), Counts: []LedgerCount{}}
	all, err := t.Claims()
	if err != nil {
		return out, err
	}
	var taken []bench.LedgerClaim
	for _, c := range all {
		if c.TakenBackMS != nil || !b.concerns(c) {
			continue
		}
		row, err := b.rowOf(c)
		if err != nil {
			return out, err
		}
		taken, out.Rows = append(taken, c), append(out.Rows, row)
	}
	found, err := b.inKit(taken)
	if err != nil {
		return out, err
	}
	out.Rows = append(out.Rows, found...)
	for _, state := range claims.States {
		n := int64(0)
		for _, r := range out.Rows {
			if r.State == state {
				n++
			}
		}
		if n > 0 {
			out.Counts = append(out.Counts, LedgerCount{state, n})
		}
	}
	return out, nil
}

// book is a review as claims are held against it.
type book struct {
	t        *store.Tx
	reader   *printing.Reader
	review   bench.Review
	setups   []reviews.SetUp
	contests []reviews.Contest
	nowMS    int64
	lookup   kit.Lookup
}

// concerns reports a claim of the review's machines, resins or matter.
func (b book) concerns(c bench.LedgerClaim) bool {
	return c.MachineID != nil && slices.Contains(b.review.MachineIDs, *c.MachineID) || c.ResinID != nil && slices.Contains(b.review.ResinIDs, *c.ResinID) || c.ReviewID != nil && *c.ReviewID == b.review.ID
}

func (b book) rowOf(c bench.LedgerClaim) (LedgerRow, error) {
	row := LedgerRow{Claim: &c, Key: c.ID, Subject: "the matter of this review", MachineID: quantity.Or(c.MachineID, ""), ResinID: quantity.Or(c.ResinID, ""), Words: c.Words, Base: c.Base, Source: c.Source, Interest: c.Interest, Test: c.Test}
	if row.Test == "" {
		row.Test = claims.Tests[c.Kind]
	}
	if c.By != "" {
		row.Source = c.By + ", " + c.Source
	}
	var names []string
	if c.MachineID != nil {
		m, err := b.lookup.Machine(*c.MachineID)
		if err != nil {
			return row, err
		}
		names = append(names, m.Name)
	}
	if c.ResinID != nil {
		r, err := b.lookup.Resin(*c.ResinID)
		if err != nil {
			return row, err
		}
		names = append(names, r.Name)
	}
	if len(names) > 0 {
		row.Subject = strings.Join(names, " with ")
	}
	if c.AgainstID != nil {
		against, err := b.lookup.Machine(*c.AgainstID)
		if err != nil {
			return row, err
		}
		row.Base = strings.TrimSpace(against.Name + " " + row.Base)
	}
	err := b.hold(c, &row)
	if why, left := quantity.WhyNot(err); left {
		row.State, row.Says = claims.Untested, why
	} else if err != nil {
		return row, err
	}
	if c.State != "" {
		row.Judged = true
		if row.State != claims.Untested && row.State != c.State {
			row.Says = fmt.Sprintf("%s. By the figures: %s; %s", strings.TrimSuffix(c.Why, "."), say.Words(row.State), row.Says)
		} else {
			row.Says = c.Why
		}
		row.State = c.State
	}
	return row, nil
}

// hold holds a claim against what was measured.
func (b book) hold(c bench.LedgerClaim, row *LedgerRow) error {
	row.State, row.Says = claims.Untested, "nothing was measured for it"
	bound := map[string]string{claims.Least: "at least ", claims.Most: "at most ", claims.Near: "about "}[c.Bound]
	switch c.Kind {
	case bench.ClaimSpeed:
		row.Number = bound + say.Figure(*c.Value) + " mm/h"
		return b.speed(c, row)
	case bench.ClaimRatio:
		row.Number = say.Figure(*c.Value) + " times"
		return b.ratio(c, row)
	case bench.ClaimLife:
		return b.life(c, row)
	case bench.ClaimSize:
		row.Number = bound + say.Figures(*c.Value, 5) + " mm " + c.Of
		return b.size(c, row)
	case bench.ClaimMeasure:
		return b.measure(c, row, bound)
	}
	return nil
}
