// Package panels is blind choice: dealing what judges are shown, sealing what stands behind the codes, taking
// their ballots, and telling the key when all have voted.
package panels

import (
	"context"
	"fmt"

	"ojime/internal/bench"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/photographs"
	"ojime/internal/work/task"
)

// Tasks are the tasks of this step on one record.
type Tasks struct {
	*task.Base
	Photographs *photographs.Tasks
}

// New makes them.
func New(base *task.Base, photographs *photographs.Tasks) *Tasks {
	return &Tasks{Base: base, Photographs: photographs}
}

// States of a panel.
const (
	Coding    = "coding"     // what is shown is being coded; the key is known to who codes
	Voting    = "voting"     // sealed: ballots come in
	Closed    = "closed"     // the key is told
	TakenBack = "taken_back" // it counts no more, and its key was told only if it had closed
)

// PanelSheet is a panel with its ballots, and with what it showed once it is closed. Nothing of it tells an arm
// before that: Cards are the codes alone, in their own order.
type PanelSheet struct {
	Panel  bench.Panel `json:"panel"`
	Review string      `json:"review"`
	State  string      `json:"state" enum:"coding,voting,closed,taken_back"`
	// Station is from where judges look, in words.
	Station string `json:"station"`
	// Tells may tell arms apart beside what is asked about: as the record says now while it is coded, as it
	// said then once it is sealed.
	Tells   []string     `json:"tells"`
	ToCode  []ToCode     `json:"to_code"`
	Left    int64        `json:"left" doc:"how many are still without their code"`
	Cards   []string     `json:"cards"`
	Ballots []BallotLine `json:"ballots"`
	Cast    int64        `json:"cast"`
	// NextToken opens the next ballot that nobody has cast, empty where none is left.
	NextToken string `json:"next_token"`
	// Elsewhere says that the key is known only in the record that the panel came from.
	Elsewhere bool `json:"elsewhere"`
	// Opening opens the panel in records that took it over while it was sealed; told once it is closed.
	Opening string         `json:"opening"`
	Shown   *ballots.Shown `json:"shown"`
}

// ToCode is a specimen or photograph of a panel, and whether it has its code on.
type ToCode struct {
	ID    string `json:"id"`
	Code  string `json:"code"`
	Arm   int    `json:"arm"`
	Label string `json:"label"`
	Coded bool   `json:"coded"`
}

// BallotLine is a ballot of a panel: whose, whether it was cast and how, and how often it was given out again.
type BallotLine struct {
	Judge  int64    `json:"judge"`
	Token  string   `json:"token"`
	Trials int64    `json:"trials"`
	Name   string   `json:"name"`
	Way    string   `json:"way" enum:",table,link,file"`
	CastMS *int64   `json:"cast_ms"`
	Again  []string `json:"again"`
}

// Panel reads a panel.
func (w *Tasks) Panel(ctx context.Context, id string) (out PanelSheet, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		out, err = sheetOf(t, id)
		return err
	})
	return out, err
}

// All lists the panels of all reviews.
func (w *Tasks) All(ctx context.Context) ([]bench.Panel, error) {
	return task.ReadList(ctx, w.Base, (*store.Tx).Panels)
}

// OfReview lists the panels of a review, the last first.
func (w *Tasks) OfReview(ctx context.Context, reviewID string) (out []PanelSheet, err error) {
	out = []PanelSheet{}
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		if _, err := t.Review(reviewID); err != nil {
			return err
		}
		all, err := t.PanelsOfReview(reviewID)
		if err != nil {
			return err
		}
		for i := range all {
			sheet, err := sheetOf(t, all[len(all)-1-i].ID)
			if err != nil {
				return err
			}
			out = append(out, sheet)
		}
		return nil
	})
	return out, err
}

func stateOf(p bench.Panel) string {
	switch {
	case p.TakenBackMS != nil:
		return TakenBack
	case p.Closed():
		return Closed
	case p.SealedMS != nil:
		return Voting
	}
	return Coding
}

func sheetOf(t *store.Tx, id string) (out PanelSheet, err error) {
	p, err := t.Panel(id)
	if err != nil {
		return out, err
	}
	review, err := t.Review(p.ReviewID)
	if err != nil {
		return out, err
	}
	out = PanelSheet{Panel: p, Review: review.Question, State: stateOf(p), Station: p.View().StationWords(), Tells: p.Tells, ToCode: []ToCode{}, Cards: []string{}, Ballots: []BallotLine{}}
	if out.State == Coding {
		if out.Tells, err = tellsOf(t, p); err != nil {
			return out, err
		}
	}
	items, err := itemsOf(t, p)
	if err != nil {
		return out, err
	}
	for _, i := range items {
		out.ToCode = append(out.ToCode, i.toCode(p))
		if !out.ToCode[len(out.ToCode)-1].Coded {
			out.Left++
		}
	}
	if err := out.seal(t); err != nil {
		return out, err
	}
	return out, out.ballots(t)
}

// seal reads of the seal what may be told.
func (s *PanelSheet) seal(t *store.Tx) error {
	seal, err := t.PanelSeal(s.Panel.ID)
	if err != nil {
		return err
	}
	if s.Elsewhere = seal.PanelKey == ""; s.Elsewhere {
		return nil // its cards are where its key is
	}
	secret, err := ballots.SecretOf(seal.PanelKey)
	if err != nil {
		return err
	}
	for _, k := range secret.Key { // in the order of the codes, which says nothing
		s.Cards = append(s.Cards, k.Code)
	}
	if !s.Panel.Closed() {
		return nil
	}
	s.Opening = seal.Opening
	shown, err := ballots.Of(t, s.Panel)
	s.Shown = &shown
	return err
}

func (s *PanelSheet) ballots(t *store.Tx) error {
	all, err := t.BallotsOfPanel(s.Panel.ID)
	if err != nil {
		return err
	}
	again := map[int64][]string{}
	for _, b := range all {
		if b.ReplacedMS != nil {
			again[b.Judge] = append(again[b.Judge], b.ReplacedWhy)
		}
	}
	for _, b := range all {
		if b.ReplacedMS != nil {
			continue
		}
		line := BallotLine{Judge: b.Judge, Token: b.Token, Trials: int64(len(b.Trials)), Name: b.Name, Way: b.Way, CastMS: b.CastMS, Again: append([]string{}, again[b.Judge]...)}
		switch {
		case b.CastMS != nil:
			s.Cast++
		case s.NextToken == "" && s.State == Voting:
			s.NextToken = b.Token
		}
		s.Ballots = append(s.Ballots, line)
	}
	return nil
}

// changing reads a panel that is to be changed, in the state that the change needs.
func changing(t *store.Tx, id, state, what string) (bench.Panel, error) {
	p, err := t.Panel(id)
	if err != nil {
		return p, err
	}
	if is := stateOf(p); is != state {
		return p, fmt.Errorf("panel %s is %s; %s: %w", p.Code, map[string]string{Coding: "still being coded", Voting: "sealed", Closed: "closed", TakenBack: "taken back"}[is], what, bench.ErrConflict)
	}
	return p, nil
}
