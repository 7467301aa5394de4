package work_test

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"slices"
	"strings"
	"testing"

	"ojime/internal/bench"
	"ojime/internal/core/blind"
	"ojime/internal/core/quantity"
	"ojime/internal/store"
	"ojime/internal/work/ballots"
	"ojime/internal/work/panels"
	"ojime/internal/work/reviews"
	"ojime/internal/work/task"
)

// voters asks a panel of the first two set-ups of a review about two copies each, with one coder.
func (d *desk) voters(review bench.Review, setups []reviews.SetUp, change func(*bench.Panel)) panels.PanelSheet {
	d.t.Helper()
	p := bench.Panel{Kind: "preference", Shows: "specimens", Question: "Which is crisper?", LooksAt: "the edge", Stage: "raw", Station: "in_hand", Light: "daylight", Judges: 8, Repeats: 1, Same: 1}
	choices := must(d.w.Panels.Choices(d.t.Context(), review.ID))(d.t)
	for i := range 2 {
		arm := bench.PanelArm{ProfileID: setups[i].ProfileID, Since: setups[i].Since, PieceID: setups[i].PieceID}
		for _, s := range choices.Arms[i].Specimens[:2] {
			arm.ItemIDs = append(arm.ItemIDs, s.ID)
		}
		p.Arms = append(p.Arms, arm)
	}
	if change != nil {
		change(&p)
	}
	return must(d.w.Panels.Make(d.t.Context(), review.ID, p))(d.t)
}

// coded puts the codes on and seals; behind says which arm each code is of, which only who coded knows.
func (d *desk) coded(s panels.PanelSheet) (sealed panels.PanelSheet, behind map[string]int) {
	d.t.Helper()
	behind = map[string]int{}
	for _, item := range s.ToCode {
		got := must(d.w.Panels.Code(d.t.Context(), s.Panel.ID, item.Code, panels.Coder{Name: "Ilse", As: "assistant"}))(d.t)
		behind[got.Code] = item.Arm
	}
	return must(d.w.Panels.Seal(d.t.Context(), s.Panel.ID))(d.t), behind
}

// votes casts every ballot: whoever is asked prefers an arm, and sees nothing between two of one.
func (d *desk) votes(s panels.PanelSheet, judges int64, prefers func(judge int64, codes []string) bench.BallotAnswer) {
	d.t.Helper()
	for _, line := range s.Ballots {
		if line.Judge > judges || line.CastMS != nil {
			continue
		}
		ballot := must(d.w.Panels.Ballot(d.t.Context(), line.Token))(d.t)
		v := panels.Vote{Way: "link", Knew: quantity.Ptr(line.Judge == 1), KnewBy: "the gloss"}
		for _, codes := range ballot.Trials {
			v.Answers = append(v.Answers, prefers(line.Judge, codes))
		}
		must(d.w.Panels.Cast(d.t.Context(), line.Token, v))(d.t)
	}
}

// forArm prefers an arm, by who knows.
func forArm(behind map[string]int, arm int) func(int64, []string) bench.BallotAnswer {
	return func(_ int64, codes []string) bench.BallotAnswer {
		if behind[codes[0]] == behind[codes[1]] {
			return bench.BallotAnswer{Place: -1, Sure: quantity.Ptr(int64(1))}
		}
		return bench.BallotAnswer{Place: int64(slices.IndexFunc(codes, func(c string) bool { return behind[c] == arm })), Sure: quantity.Ptr(int64(3))}
	}
}

func TestAPanelFromCodesToTheRowInTheComparison(t *testing.T) {
	d, review, setups := motionsSeen(t)
	ctx := t.Context()
	made := d.voters(review, setups, nil)
	if made.State != panels.Coding || made.Left != 4 || len(made.Cards) != 4 || made.Panel.Code != "V1" || len(made.Panel.KeySHA256) != 64 || made.Shown != nil {
		t.Fatalf("%+v", made)
	}
	if says := strings.Join(made.Tells, "\n"); !strings.Contains(says, "All copies of "+setups[0].Label+" are of one print") || !strings.Contains(says, "Not on record: a raft left on") {
		t.Errorf("tells %q", says)
	}
	_, err := d.w.Panels.Seal(ctx, made.Panel.ID)
	wantField(t, err, "coded")
	if _, err := d.w.Panels.Ballot(ctx, made.Ballots[0].Token); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("a ballot before the seal: %v", err)
	}
	sealed, behind := d.coded(made)
	if sealed.State != panels.Voting || sealed.NextToken == "" || sealed.Panel.CodedBy != "assistant" || len(behind) != 4 {
		t.Fatalf("%+v", sealed)
	}
	d.votes(sealed, 8, forArm(behind, 1))
	closed := must(d.w.Panels.Close(ctx, made.Panel.ID, panels.Closing{}))(t)
	got := closed.Shown
	if got == nil || closed.Cast != 8 || len(got.Key) != 4 || len(got.Result.Pairs) != 1 || got.Knew.Said != 1 || got.Knew.Of != 8 {
		t.Fatalf("%+v", got)
	}
	if b := got.Result.Pairs[0].Ballots; b.B != 16 || b.A != 0 || b.P >= 0.01 || *b.RepeatAgreement != 1 || got.Result.Alike.Seen != 0 || got.Result.Alike.Of != 8 {
		t.Errorf("%+v", b)
	}
	if !strings.HasPrefix(got.Says[0], setups[1].Label+" rather than "+setups[0].Label+" in 100 % of the votes") || !strings.Contains(got.Says[0], "clearly preferred (p = 0.0078)") || !strings.Contains(got.Grade, "double-blind: an assistant coded; sealed on 2026-09-0") {
		t.Errorf("%q, %q", got.Says, got.Grade)
	}
	for _, k := range got.Key {
		if behind[k.Code] != k.Arm {
			t.Errorf("the key says %+v", k)
		}
	}
	// What was hashed is told now, so that anybody can hash it again.
	sum := sha256.Sum256([]byte(must(ballots.Secret{Seed: got.Seed, Key: keyOf(got)}.Text())(t)))
	if hex.EncodeToString(sum[:]) != made.Panel.KeySHA256 {
		t.Error("the key is not what was hashed before anybody voted")
	}
	row := d.compared(review, setups).Panels
	if len(row) != 1 || row[0].A != 0 || row[0].B != 1 || *row[0].Share != 0 || row[0].Judges != 8 || row[0].Verdict != "clear" || !strings.Contains(row[0].Grade, "double-blind") {
		t.Errorf("%+v", row)
	}
	if last := must(d.w.History.All(ctx, "panel", 0))(t)[0]; last.Code != "V1" || last.Link != "/verdict/panels/"+made.Panel.ID || last.Command != "close the panel" || last.PutBack {
		t.Errorf("%+v", last)
	}
	// Of two other set-ups it says nothing.
	if other := d.compared(review, setups[1:]).Panels; len(other) != 0 {
		t.Errorf("%+v", other)
	}
	text := string(must(d.w.Publish.WriteUp(ctx, review.ID))(t))
	for _, want := range []string{"## What blind judges said", "**V1: Which is crisper?** Looked at: the edge.", "clearly preferred (p = 0.0078)", "1 of 8 judges believed to know which was which: the gloss.", made.Panel.KeySHA256, "Not on record: a raft left on"} {
		if !strings.Contains(text, want) {
			t.Errorf("the write-up lacks %q", want)
		}
	}
	rows := d.table(review.ID, "ballots")
	if len(rows) != 24 || rows[0]["panel"] != "V1" || rows[0]["sure"] == "" || rows[0]["arms"] == "" {
		t.Errorf("%d rows, %v", len(rows), rows[0])
	}
}

// keyOf is the key as it was dealt.
func keyOf(s *ballots.Shown) (out []blind.Coded) {
	for _, k := range s.Key {
		out = append(out, blind.Coded{Code: k.Code, Item: k.ItemID, Arm: k.Arm})
	}
	return out
}

// Somebody who wants to learn the key reads everything that the program writes. Nothing of it hangs on which code
// is on which specimen: with the key turned round, it is all the same to the last byte.
func TestNothingTellsASealedKey(t *testing.T) {
	d, review, setups := motionsSeen(t)
	ctx := t.Context()
	sealed, behind := d.coded(d.voters(review, setups, nil))
	d.votes(sealed, 5, forArm(behind, 1))
	id := sealed.Panel.ID
	told := func() map[string]string {
		var export bytes.Buffer
		if err := d.w.Record.Export(ctx, &export); err != nil {
			t.Fatal(err)
		}
		out := map[string]string{"export": export.String(), "write-up": string(must(d.w.Publish.WriteUp(ctx, review.ID))(t)), "ballots.csv": string(must(d.w.Dataset.Table(ctx, review.ID, "ballots"))(t))}
		for name, v := range map[string]any{
			"panel": must(d.w.Panels.Panel(ctx, id))(t), "list": must(d.w.Panels.OfReview(ctx, review.ID))(t), "choices": must(d.w.Panels.Choices(ctx, review.ID))(t), "ballot": must(d.w.Panels.Ballot(ctx, sealed.Ballots[6].Token))(t),
			"history": must(d.w.History.Of(ctx, "panel", id))(t), "all history": must(d.w.History.All(ctx, "", 0))(t), "bench": must(d.w.BenchView.Bench(ctx))(t), "done": d.w.Recent(), "comparison": d.compared(review, setups),
		} {
			text, err := json.Marshal(v)
			if err != nil {
				t.Fatal(err)
			}
			out[name] = string(text)
		}
		return out
	}
	before := told()
	d.writes(func(tx *store.Tx) error {
		seal, err := tx.PanelSeal(id)
		if err != nil {
			return err
		}
		secret, err := ballots.SecretOf(seal.PanelKey)
		if err != nil {
			return err
		}
		n := len(secret.Key)
		turned := slices.Clone(secret.Key)
		for i := range turned {
			turned[i].Item, turned[i].Arm = secret.Key[n-1-i].Item, secret.Key[n-1-i].Arm
		}
		secret.Seed, secret.Key = 1, turned
		if seal.PanelKey, err = secret.Text(); err != nil {
			return err
		}
		return tx.SavePanelSeal(seal)
	})
	for name, after := range told() {
		if after != before[name] {
			t.Errorf("%s hangs on the key", name)
		}
	}
	if len(before["export"]) < 1000 || !strings.Contains(before["write-up"], "It is not closed: its key is sealed") || strings.Count(before["ballots.csv"], "\n") != 1 {
		t.Error("what is told is not what was asked for")
	}
	if _, err := d.w.Panels.Code(ctx, id, sealed.ToCode[0].Code, panels.Coder{Name: "Ilse", As: "assistant"}); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("the code is told again: %v", err)
	}
	if i := slices.IndexFunc(d.w.Recent(), func(done task.Done) bool { return done.Reason == "" && strings.Contains(done.Of, "V1") }); i >= 0 {
		t.Error("a panel can be undone, and an undo shows what it undid")
	}
}

func TestWhoMayVoteAndHowOften(t *testing.T) {
	d, review, setups := motionsSeen(t)
	ctx := t.Context()
	sealed, behind := d.coded(d.voters(review, setups, func(p *bench.Panel) { p.Judges = 3 }))
	token, id := sealed.Ballots[0].Token, sealed.Panel.ID
	whole := panels.Vote{Way: "table"}
	for _, codes := range must(d.w.Panels.Ballot(ctx, token))(t).Trials {
		whole.Answers = append(whole.Answers, forArm(behind, 0)(1, codes))
	}
	vote := func(change func(*panels.Vote)) error {
		v := whole
		v.Answers = slices.Clone(whole.Answers)
		change(&v)
		_, err := d.w.Panels.Cast(ctx, token, v)
		return err
	}
	wantField(t, vote(func(v *panels.Vote) { v.Name = " ilse " }), "name")
	wantField(t, vote(func(v *panels.Vote) { v.Answers = v.Answers[1:] }), "answers")
	wantField(t, vote(func(v *panels.Vote) { v.Answers[1].Place = 2 }), "answers[1].place")
	wantField(t, vote(func(v *panels.Vote) { v.Answers[0].Sure = quantity.Ptr(int64(9)) }), "answers[0].sure")
	if err := vote(func(v *panels.Vote) { v.Name = "Brandt" }); err != nil {
		t.Fatal(err)
	}
	if err := vote(func(*panels.Vote) {}); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("cast twice: %v", err)
	}
	if b := must(d.w.Panels.Ballot(ctx, token))(t); b.State != "cast" || len(b.Trials) != 0 {
		t.Errorf("%+v", b)
	}
	_, err := d.w.Panels.Again(ctx, id, 1, " ")
	wantField(t, err, "why")
	again := must(d.w.Panels.Again(ctx, id, 1, "they dropped one"))(t)
	if again.Cast != 0 || again.Ballots[0].Token == token || !slices.Equal(again.Ballots[0].Again, []string{"they dropped one"}) {
		t.Errorf("%+v", again.Ballots[0])
	}
	if _, err := d.w.Panels.Ballot(ctx, token); !errors.Is(err, bench.ErrNotFound) {
		t.Errorf("the old link: %v", err)
	}
	if _, err := d.w.Panels.Again(ctx, id, 2, "x"); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("again before the first time: %v", err)
	}
	// Opened early, which stays.
	d.votes(again, 2, forArm(behind, 0))
	_, err = d.w.Panels.Close(ctx, id, panels.Closing{EarlyWhy: "  "})
	wantField(t, err, "early_why")
	closed := must(d.w.Panels.Close(ctx, id, panels.Closing{EarlyWhy: "the third judge left."}))(t)
	if !strings.Contains(closed.Shown.Grade, "2 judges; opened early (the third judge left)") || !strings.Contains(closed.Shown.Says[0], "2 judges, or those of them who prefer one, are too few, whatever they say: six who prefer one can show it") {
		t.Errorf("%q, %q", closed.Shown.Grade, closed.Shown.Says)
	}
	if _, err := d.w.Panels.Cast(ctx, closed.Ballots[2].Token, whole); !errors.Is(err, bench.ErrConflict) {
		t.Errorf("cast after the close: %v", err)
	}
	back := must(d.w.Panels.TakeBack(ctx, id, "a label showed"))(t)
	if rows := d.compared(review, setups).Panels; len(rows) != 0 || back.State != panels.TakenBack {
		t.Errorf("%+v", rows)
	}
}

func TestAPanelThatCannotBeMade(t *testing.T) {
	d, review, setups := motionsSeen(t)
	choices := must(d.w.Panels.Choices(t.Context(), review.ID))(t)
	if len(choices.Arms) != 3 || len(choices.Arms[0].Specimens) != 24 || len(choices.Arms[2].Specimens) != 0 {
		t.Fatalf("%+v", choices)
	}
	good := d.voters(review, setups, nil).Panel
	for field, spoil := range map[string]func(*bench.Panel){
		"question": func(p *bench.Panel) { p.Question = " " }, "light": func(p *bench.Panel) { p.Light = "" }, "magnification": func(p *bench.Panel) { p.Station = "loupe" }, "judges": func(p *bench.Panel) { p.Judges = 0 },
		"arms[0]": func(p *bench.Panel) { p.Arms[0].ProfileID = "x" }, "arms[1].piece_id": func(p *bench.Panel) { p.Arms[1].PieceID = "x" }, "arms[1].item_ids[0]": func(p *bench.Panel) { p.Arms[1].ItemIDs = bench.IDs{p.Arms[0].ItemIDs[0] + "x"} }, "arms[0].item_ids[1]": func(p *bench.Panel) {
			p.Arms[0].ItemIDs = bench.IDs{p.Arms[0].ItemIDs[0], choices.Arms[1].Specimens[7].ID}
		},
		"shows": func(p *bench.Panel) { p.Shows = "dreams" }, "repeats": func(p *bench.Panel) { p.Repeats = 5 },
	} {
		p := good
		p.Arms = bench.PanelArms{good.Arms[0], good.Arms[1]}
		spoil(&p)
		_, err := d.w.Panels.Make(t.Context(), review.ID, p)
		t.Run(field, func(t *testing.T) { wantField(t, err, field) })
	}
	_, err := d.w.Panels.Code(t.Context(), must(d.w.Panels.OfReview(t.Context(), review.ID))(t)[0].Panel.ID, choices.Arms[0].Specimens[9].Code, panels.Coder{Name: "Ilse", As: "reviewer"})
	wantField(t, err, "specimen")
}

// Each kind of panel says in words what it showed: against chance where a guess may be right, and in order where all
// are put in one.
func TestEveryKindSaysWhatItShowed(t *testing.T) {
	d, review, setups := motionsSeen(t)
	for kind, c := range map[string]struct {
		answer func(behind map[string]int, codes []string) bench.BallotAnswer
		want   string
	}{
		"odd_one_out": {func(behind map[string]int, codes []string) bench.BallotAnswer {
			for i := range codes {
				if behind[codes[i]] != behind[codes[(i+1)%3]] && behind[codes[i]] != behind[codes[(i+2)%3]] {
					return bench.BallotAnswer{Place: int64(i), Sure: quantity.Ptr(int64(4))}
				}
			}
			return bench.BallotAnswer{}
		}, "The odd one was found in 8 of 8, 100 % (67.6 to 100 %); by chance 33.3 % would be. A difference is clearly seen (p below 0.001)."},
		"matching": {func(behind map[string]int, codes []string) bench.BallotAnswer {
			return bench.BallotAnswer{Arm: int64(1 - behind[codes[0]])}
		}, "It was told which was which in 0 of 16, 0 % (0 to 19.4 %); by chance 50 % would be. That a difference is seen is not shown (p = 1)."},
		"ranking": {func(behind map[string]int, codes []string) bench.BallotAnswer {
			if behind[codes[0]] == 1 {
				return bench.BallotAnswer{Order: []int64{0, 1}}
			}
			return bench.BallotAnswer{Order: []int64{1, 0}}
		}, "From best to worst: " + setups[1].Label + " ("},
	} {
		sealed, behind := d.coded(d.voters(review, setups, func(p *bench.Panel) { p.Kind, p.Repeats, p.Same = kind, 0, 0 }))
		d.votes(sealed, 8, func(_ int64, codes []string) bench.BallotAnswer { return c.answer(behind, codes) })
		shown := must(d.w.Panels.Close(t.Context(), sealed.Panel.ID, panels.Closing{}))(t).Shown
		if !strings.HasPrefix(shown.Says[0], c.want) {
			t.Errorf("%s: %q\nwant %q", kind, shown.Says[0], c.want)
		}
		if rows := d.compared(review, setups).Panels; rows[len(rows)-1].Says != shown.Says[0] || (kind == "ranking") != (rows[len(rows)-1].P == nil) {
			t.Errorf("%s: %+v", kind, rows[len(rows)-1])
		}
	}
	if rows := d.table(review.ID, "ballots"); len(rows) != 8+16+8 {
		t.Errorf("%d rows", len(rows))
	}
}
