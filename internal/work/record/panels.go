package record

import (
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"slices"

	"ojime/internal/bench"
	"ojime/internal/core/blind"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/task"
)

// sealsToExport are the seals of all panels as they go out: of one that is not closed the encrypted key alone,
// so that nobody learns it from the file.
func sealsToExport(t *store.Tx) ([]bench.PanelSeal, error) {
	panels, err := t.Panels()
	if err != nil {
		return nil, err
	}
	out := make([]bench.PanelSeal, len(panels))
	for i, p := range panels {
		if out[i], err = t.PanelSeal(p.ID); err != nil {
			return nil, err
		}
		if !p.Closed() {
			out[i].PanelKey, out[i].Opening = "", ""
		}
	}
	return out, nil
}

// panelsFit holds panels, seals and ballots against each other: what is shown is on record, each panel has one
// seal that its hash fits, and its answers are to what was asked.
func (r *Record) panelsFit(known identities) func() error {
	return func() error {
		seals := map[string]bench.PanelSeal{}
		for i, s := range r.PanelSeals {
			if _, twice := seals[s.PanelID]; twice {
				return quantity.Errorf(fmt.Sprintf("panel_seals[%d].panel_id", i), "is %.40q, which has a seal already; the file was changed or damaged", s.PanelID)
			}
			seals[s.PanelID] = s
		}
		of := map[string][]bench.Ballot{}
		for _, b := range r.Ballots {
			of[b.PanelID] = append(of[b.PanelID], b)
		}
		for i, p := range r.Panels {
			at := fmt.Sprintf("panels[%d].", i)
			seal, sealed := seals[p.ID]
			if !sealed {
				return quantity.Errorf(at+"id", "has no seal; the file was changed or damaged")
			}
			if err := panelFits(known, p, seal, of[p.ID]); err != nil {
				return task.WithPrefix(at, err)
			}
		}
		return nil
	}
}

func panelFits(known identities, p bench.Panel, seal bench.PanelSeal, all []bench.Ballot) error {
	for i, arm := range p.Arms {
		for _, id := range arm.ItemIDs {
			if !known[p.Shows][id] {
				return quantity.Errorf(fmt.Sprintf("arms[%d].item_ids", i), "name %.40q, which is not in the file", id)
			}
		}
	}
	standing := make([]*bench.Ballot, p.Judges)
	for _, b := range all {
		if b.Judge < 1 || b.Judge > p.Judges || b.ReplacedMS == nil && standing[b.Judge-1] != nil {
			return quantity.Errorf("judges", "do not fit ballot %.40s; the file was changed or damaged", b.ID)
		}
		if b.ReplacedMS == nil {
			standing[b.Judge-1] = &b
		}
	}
	if slices.Contains(standing, nil) {
		return quantity.Errorf("judges", "are %d, and not each has a ballot; the file was changed or damaged", p.Judges)
	}
	if seal.PanelKey == "" {
		if p.Closed() {
			return quantity.Errorf("closed_ms", "is given without the key; the file was changed or damaged")
		}
		return answersFit(p, standing, nil)
	}
	if sum := sha256.Sum256([]byte(seal.PanelKey)); hex.EncodeToString(sum[:]) != p.KeySHA256 {
		return quantity.Errorf("key_sha256", "is not that of the key; one of the two was changed")
	}
	secret, err := ballots.SecretOf(seal.PanelKey)
	if err != nil {
		return quantity.Errorf("key_sha256", "is of a key that cannot be read")
	}
	return answersFit(p, standing, secret.Key)
}

// answersFit holds what was answered against what was shown; with the key also what was shown against that.
func answersFit(p bench.Panel, standing []*bench.Ballot, key []blind.Coded) error {
	deal := blind.Deal{Ballots: make([][]blind.Trial, len(standing))}
	codes := make([][][]string, len(standing))
	var answers []blind.Answer
	for i, b := range standing {
		codes[i] = b.Trials
		for _, shown := range b.Trials {
			if !fits(p.Kind, len(shown), len(p.Arms)) {
				return quantity.Errorf("kind", "is %s, and a ballot shows %d at once; the file was changed or damaged", p.Kind, len(shown))
			}
			deal.Ballots[i] = append(deal.Ballots[i], blind.Trial{Shown: make([]blind.Shown, len(shown))})
		}
		if b.CastMS != nil {
			answers = append(answers, b.Answers.As(i)...)
		}
	}
	if key == nil {
		return blind.CheckAnswers(p.Input(0), deal, answers)
	}
	for _, k := range key {
		if !p.Holds(k.Item) || k.Arm < 0 || k.Arm >= len(p.Arms) || !slices.Contains(p.Arms[k.Arm].ItemIDs, k.Item) {
			return quantity.Errorf("arms", "do not hold %.40q, which the key does", k.Item)
		}
	}
	again, err := blind.Again(p.Kind, key, codes)
	if err != nil {
		return err
	}
	_, err = blind.Results(p.Input(0), again, answers)
	return err
}

// fits reports that a kind of panel shows so many at once.
func fits(kind string, shown, arms int) bool {
	return shown == map[string]int{blind.Preference: 2, blind.OddOneOut: 3, blind.Ranking: arms, blind.Matching: 1}[kind]
}
