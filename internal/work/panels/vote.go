package panels

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"ojime/internal/bench"
	"ojime/internal/core/blind"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/task"
)

// JudgesBallot is what a judge is shown, and nothing else: the question, how to look, and codes.
type JudgesBallot struct {
	Panel    string     `json:"panel"`
	Question string     `json:"question"`
	LooksAt  string     `json:"looks_at"`
	Kind     string     `json:"kind" enum:"preference,odd_one_out,ranking,matching"`
	Shows    string     `json:"shows" enum:"specimens,photographs"`
	Station  string     `json:"station"`
	Light    string     `json:"light"`
	Judge    int64      `json:"judge"`
	Judges   int64      `json:"judges"`
	Trials   [][]string `json:"trials"`
	// Arms are the names to choose from, of a matching alone.
	Arms  []string `json:"arms"`
	State string   `json:"state" enum:"open,cast,closed"`
}

// Vote is what a judge answers: all trials at once.
type Vote struct {
	Answers bench.BallotAnswers `json:"answers" minItems:"1" maxItems:"100"`
	Name    string              `json:"name" required:"false" maxLength:"80"`
	Knew    *bool               `json:"knew" required:"false"`
	KnewBy  string              `json:"knew_by" required:"false" maxLength:"300"`
	Way     string              `json:"way" enum:"table,link,file"`
}

// Ballot reads the ballot that a link opens.
func (w *Tasks) Ballot(ctx context.Context, token string) (out JudgesBallot, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		b, p, err := ballotOf(t, token)
		if err != nil {
			return err
		}
		out = shown(b, p)
		return nil
	})
	return out, err
}

// TokenOf is what opens the ballot of a judge of a panel.
func (w *Tasks) TokenOf(ctx context.Context, id string, judge int64) (token string, err error) {
	err = w.Store.Read(ctx, func(t *store.Tx) error {
		all, err := t.BallotsOfPanel(id)
		if err != nil {
			return err
		}
		at := slices.IndexFunc(all, func(b bench.Ballot) bool { return b.Judge == judge && b.ReplacedMS == nil })
		if at < 0 {
			return fmt.Errorf("ballot of judge %d: %w", judge, bench.ErrNotFound)
		}
		token = all[at].Token
		return nil
	})
	return token, err
}

// ballotOf reads a ballot and its panel; a link that opens nothing does not say why.
func ballotOf(t *store.Tx, token string) (b bench.Ballot, p bench.Panel, err error) {
	b, err = t.BallotByToken(token)
	if err == nil && b.ReplacedMS != nil {
		err = fmt.Errorf("this link was replaced by another: %w", bench.ErrNotFound)
	}
	if err != nil {
		return b, p, err
	}
	if p, err = t.Panel(b.PanelID); err != nil {
		return b, p, err
	}
	if p.SealedMS == nil || p.TakenBackMS != nil {
		return b, p, fmt.Errorf("this panel takes no votes; ask who gave you the link: %w", bench.ErrNotFound)
	}
	return b, p, nil
}

func shown(b bench.Ballot, p bench.Panel) JudgesBallot {
	out := JudgesBallot{Panel: p.Code, Question: p.Question, LooksAt: p.LooksAt, Kind: p.Kind, Shows: p.Shows, Station: p.View().StationWords(), Light: p.Light, Judge: b.Judge, Judges: p.Judges, Trials: b.Trials, Arms: []string{}, State: "open"}
	if p.Kind == blind.Matching {
		for _, a := range p.Arms {
			out.Arms = append(out.Arms, a.Label)
		}
	}
	switch {
	case b.CastMS != nil:
		out.State = "cast"
	case p.Closed():
		out.State = "closed"
	}
	if out.State != "open" {
		out.Trials = [][]string{} // it works once
	}
	return out
}

// Cast takes a judge's ballot, whole and once.
func (w *Tasks) Cast(ctx context.Context, token string, v Vote) (JudgesBallot, error) {
	return task.Keep(ctx, w.Base, func(t *store.Tx) (JudgesBallot, error) {
		b, p, err := ballotOf(t, token)
		if err != nil {
			return JudgesBallot{}, err
		}
		if b, err = w.cast(b, p, v); err != nil {
			return JudgesBallot{}, err
		}
		return shown(b, p), t.SaveBallot(b)
	})
}

// cast checks a vote and puts it on its ballot.
func (w *Tasks) cast(b bench.Ballot, p bench.Panel, v Vote) (bench.Ballot, error) {
	switch {
	case b.CastMS != nil:
		return b, fmt.Errorf("this ballot was cast already; ask who gave it to you for leave to vote again: %w", bench.ErrConflict)
	case p.Closed():
		return b, fmt.Errorf("panel %s is closed: %w", p.Code, bench.ErrConflict)
	case bench.SameName(v.Name, p.Coder):
		return b, quantity.Errorf("name", "is that of who put the codes on; they know which is which and cannot vote")
	case len(v.Answers) != len(b.Trials):
		return b, quantity.Errorf("answers", "are %d of %d; a ballot is cast whole", len(v.Answers), len(b.Trials))
	}
	if err := blind.CheckAnswers(p.Input(0), lookalike(b), v.Answers.As(0)); err != nil {
		return b, err
	}
	for i := range v.Answers {
		if v.Answers[i].Order == nil {
			v.Answers[i].Order = []int64{}
		}
	}
	b.Answers, b.Name, b.Knew, b.KnewBy, b.Way, b.CastMS = v.Answers, strings.TrimSpace(v.Name), v.Knew, strings.TrimSpace(v.KnewBy), v.Way, quantity.Ptr(w.NowMS())
	if b.Knew == nil || !*b.Knew {
		b.KnewBy = ""
	}
	return b, nil
}

// lookalike is a deal of one ballot as far as it can be known without the key: how many each trial shows.
func lookalike(b bench.Ballot) blind.Deal {
	trials := make([]blind.Trial, len(b.Trials))
	for i, codes := range b.Trials {
		trials[i].Shown = make([]blind.Shown, len(codes))
	}
	return blind.Deal{Ballots: [][]blind.Trial{trials}}
}

// Picture is a photograph by its code, as the ballot of a link shows it: drawn anew on a ground of one size, so
// that no size, tag or hash tells which file it was.
func (w *Tasks) Picture(ctx context.Context, token, code string) (out []byte, err error) {
	var id string
	if err = w.Store.Read(ctx, func(t *store.Tx) error {
		b, p, err := ballotOf(t, token)
		if err != nil {
			return err
		}
		if p.Shows != bench.ShowsPhotographs || !slices.ContainsFunc(b.Trials, func(codes []string) bool { return slices.Contains(codes, code) }) {
			return fmt.Errorf("picture %.10s of this ballot: %w", code, bench.ErrNotFound)
		}
		id, err = itemBehind(t, p.ID, code)
		return err
	}); err != nil {
		return nil, err
	}
	return w.Photographs.Bare(ctx, id)
}

// itemBehind is the item of a code: for the program's own use, which shows it without saying what it is.
func itemBehind(t *store.Tx, panelID, code string) (string, error) {
	seal, err := t.PanelSeal(panelID)
	if err != nil {
		return "", err
	}
	if seal.PanelKey == "" {
		return "", fmt.Errorf("pictures of this panel are shown in the record that it came from, where its key is: %w", bench.ErrConflict)
	}
	secret, err := ballots.SecretOf(seal.PanelKey)
	if err != nil {
		return "", err
	}
	for _, k := range secret.Key {
		if k.Code == code {
			return k.Item, nil
		}
	}
	return "", fmt.Errorf("code %.10s: %w", code, bench.ErrNotFound)
}
