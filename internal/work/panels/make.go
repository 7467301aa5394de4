package panels

import (
	"context"
	"fmt"
	"io"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/blind"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/reviews"
	"ojime/internal/work/task"
)

var entry = task.Entry[bench.Panel]{
	Table: "panel",
	Head: func(p *bench.Panel) task.Head {
		return task.Head{ID: &p.ID, Code: &p.Code, Version: &p.Version, CreatedMS: &p.CreatedMS}
	},
	Get: (*store.Tx).Panel,
	Put: (*store.Tx).SavePanel,
}

// Make deals a panel of a review: codes, sides and order are drawn, and kept with the panel; what stands behind
// the codes goes into its seal. Photographs need no coding by hand.
func (w *Tasks) Make(ctx context.Context, reviewID string, p bench.Panel) (PanelSheet, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (PanelSheet, error) {
		review, err := t.Review(reviewID)
		if err != nil {
			return PanelSheet{}, err
		}
		p.ID, p.ReviewID, p.Coder, p.CodedBy, p.Coded, p.Tells = "", reviewID, "", "", bench.IDs{}, bench.Notes{}
		p.SealedMS, p.ClosedMS, p.EarlyWhy, p.TakenBackMS, p.TakenBackWhy = nil, nil, "", nil, ""
		if err := p.Check(); err != nil {
			return PanelSheet{}, err
		}
		if p.Arms, err = armsOf(t, review, p); err != nil {
			return PanelSheet{}, err
		}
		if p.Shows == bench.ShowsPhotographs {
			p.CodedBy = bench.CodedByProgram
		}
		secret, deal, err := w.deal(p)
		if err != nil {
			return PanelSheet{}, err
		}
		text, err := secret.Text()
		if err != nil {
			return PanelSheet{}, err
		}
		p.KeySHA256 = hashOf(text)
		if p, err = task.Put(w.Base, t, entry, p); err != nil {
			return PanelSheet{}, err
		}
		seal := bench.PanelSeal{PanelID: p.ID, PanelKey: text}
		if seal.Sealed, seal.Opening, err = shut(w.Random, p.KeySHA256, text); err != nil {
			return PanelSheet{}, err
		}
		if err := t.SavePanelSeal(seal); err != nil {
			return PanelSheet{}, err
		}
		if err := w.giveBallots(t, p.ID, deal.Codes()); err != nil {
			return PanelSheet{}, err
		}
		return sheetOf(t, p.ID)
	})
}

// put writes a panel whose state changed, and notes what was done with it.
func (w *Tasks) put(t *store.Tx, before, p bench.Panel, says, why string) error {
	p.Version++
	if err := t.SavePanel(p); err != nil {
		return err
	}
	return w.Note(t, "panel", p.ID, says, why, before, p)
}

// deal draws a seed and deals by it.
func (w *Tasks) deal(p bench.Panel) (ballots.Secret, blind.Deal, error) {
	seed, err := w.secretSeed()
	if err != nil {
		return ballots.Secret{}, blind.Deal{}, err
	}
	deal, err := blind.New(p.Input(seed))
	return ballots.Secret{Seed: seed, Key: deal.Key}, deal, err
}

// secretSeed draws a seed of 52 bits, which nobody tries out, and which JavaScript reads exactly.
func (w *Tasks) secretSeed() (seed int64, err error) {
	var b [7]byte
	if _, err := io.ReadFull(w.Random, b[:]); err != nil {
		return 0, fmt.Errorf("draw a seed: %w", err)
	}
	for _, v := range b {
		seed = seed<<8 | int64(v)
	}
	return seed & (1<<52 - 1), nil
}

func (w *Tasks) giveBallots(t *store.Tx, panelID string, codes [][][]string) error {
	for i, trials := range codes {
		if err := w.giveBallot(t, panelID, int64(i+1), trials); err != nil {
			return err
		}
	}
	return nil
}

func (w *Tasks) giveBallot(t *store.Tx, panelID string, judge int64, trials bench.BallotTrials) error {
	id, err := w.NewID()
	if err != nil {
		return err
	}
	token, err := newToken(w.Random)
	if err != nil {
		return err
	}
	return t.SaveBallot(bench.Ballot{ID: id, PanelID: panelID, Judge: judge, Token: token, Trials: trials, CreatedMS: w.NowMS(), Answers: bench.BallotAnswers{}})
}

// checkArm holds an arm against the set-ups of its review, and names it as they do.
func checkArm(t *store.Tx, setups []reviews.SetUp, shows string, i int, arm *bench.PanelArm) error {
	at := slices.IndexFunc(setups, func(s reviews.SetUp) bool {
		return s.ReferenceID == "" && s.Ref() == bench.SetUpRef{ProfileID: arm.ProfileID, Since: arm.Since} && s.PieceID == arm.PieceID
	})
	if at < 0 {
		return quantity.Errorf(fmt.Sprintf("arms[%d]", i), "is no set-up of this review with prints that it does not leave out; choose one of them")
	}
	arm.Label = setups[at].Label
	for j, id := range arm.ItemIDs {
		field := fmt.Sprintf("arms[%d].item_ids[%d]", i, j)
		item, err := itemOf(t, shows, id)
		switch {
		case task.IsMissing(err):
			return quantity.Errorf(field, "is not on record; choose one that is listed for %s", arm.Label)
		case err != nil:
			return err
		case item.specimen.ID == "" || item.specimen.PieceID != arm.PieceID || !slices.Contains(setups[at].RunIDs, item.run.ID):
			return quantity.Errorf(field, "is %s, which is not of %s", item.code, arm.Label)
		case item.specimen.Outcome == "pending" || item.specimen.Outcome == "lost":
			return quantity.Errorf(field, "is %s, of a copy that is %s; show copies that came out", item.code, item.specimen.Outcome)
		case item.photograph != nil && item.photograph.TakenBackMS != nil:
			return quantity.Errorf(field, "is %s, which was taken back; choose another photograph", item.code)
		}
	}
	return nil
}
