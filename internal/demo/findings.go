package demo

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"ojime/internal/bench"
	"ojime/internal/core/quantity"
	"ojime/internal/work/findings"
	"ojime/internal/work/publish"
)

// publishes picks what a review publishes as found: the strongest rows, one in the reviewer's words, one that cannot be
// told, and a word of the reviewer's own.
func (d *scene) publishes(reviewID string) error {
	sheet, err := d.work.Findings.Sheet(d.ctx, reviewID)
	if err != nil {
		return err
	}
	for _, says := range []string{"crisper bars", "Time of a plate of", "failures, all"} {
		at := slices.IndexFunc(sheet.Offered, func(r findings.FoundRow) bool { return strings.Contains(r.Sentence, says) })
		if at < 0 {
			return fmt.Errorf("the review offers no finding on %q", says)
		}
		if sheet, err = d.work.Findings.Pick(d.ctx, reviewID, sheet.Offered[at].Key, ""); err != nil {
			return err
		}
	}
	first := sheet.Picked[0].Finding
	if _, err := d.work.Findings.Reword(d.ctx, first.ID, first.Version, "In the hand, and primed, judges who did not know which was which preferred the bars of the masked panel."); err != nil {
		return err
	}
	if _, err := d.work.Findings.Pick(d.ctx, reviewID, "", "The projector's vat pours out at one corner only, and drips on the way."); err != nil {
		return err
	}
	return d.claims(reviewID)
}

// claims writes down what is claimed of the machines and resins of a review, and how they came.
func (d *scene) claims(reviewID string) error {
	review, err := d.work.Reviews.Review(d.ctx, reviewID)
	if err != nil {
		return err
	}
	masked, projector, tough := review.MachineIDs[0], review.MachineIDs[1], review.ResinIDs[1]
	p := quantity.Ptr[float64]
	for _, c := range []bench.LedgerClaim{
		{MachineID: &masked, Words: "The panel is good for 2,000 hours.", Kind: bench.ClaimLife, Value: p(2000), Of: "light_h", Source: "its page", Interest: "maker"},
		{MachineID: &masked, AgainstID: &projector, Words: "2.25 times the resolution of a projector.", Kind: bench.ClaimRatio, Value: p(2.25), Source: "the shop's page", Interest: "seller"},
		{MachineID: &projector, Words: "You will see one failure in fifty, at most.", Kind: bench.ClaimMeasure, Value: p(2), Of: "failures", Bound: "at_most", Source: "a film", By: "a tester", Interest: "paid"},
		{ResinID: &tough, Words: "Sands like wood.", Kind: bench.ClaimWords, Source: "the label", Interest: "maker", State: "untestable", Why: "Nothing here was sanded, and wood is not one thing."},
		{ReviewID: &reviewID, Words: "At arm's length nobody tells a panel from a projector.", Kind: bench.ClaimWords, Source: "a post", Interest: "owner", Test: "A panel of judges at arm's length, odd one out of three."},
	} {
		if _, err := d.work.Ledger.Keep(d.ctx, c); err != nil {
			return err
		}
	}
	for _, i := range []bench.Interest{
		{ResinID: &review.ResinIDs[0], How: "given", Whom: "its maker", Day: quantity.Ptr(d.day(-27)), Note: "two bottles"},
		{ResinID: &tough, How: "bought", Whom: "a shop"},
		{MachineID: &projector, How: "code", Whom: "the shop that sells it"},
	} {
		if _, err := d.work.Disclosure.Tie(d.ctx, i); err != nil {
			return err
		}
	}
	for _, price := range []bench.Price{
		{MachineID: &masked, Day: d.day(-90), State: "list", Amount: p(429), Shipping: p(0), TaxIncluded: true, Source: "the maker's page"},
		{MachineID: &masked, Day: d.day(-5), State: "offer", UntilDay: quantity.Ptr(d.day(44)), Amount: p(389), Shipping: p(0), TaxIncluded: true, Source: "a shop", Note: "its winter offer"},
		{MachineID: &projector, Day: d.day(-90), State: "list", Amount: p(489), Shipping: p(19), TaxIncluded: true, Source: "the maker's page"},
		{MachineID: &projector, Day: d.day(-184), State: "pledge", Amount: p(349), TaxIncluded: true, Source: "the campaign"},
		{ResinID: &review.ResinIDs[0], Day: d.day(-90), State: "list", Amount: p(27), Shipping: p(0), TaxIncluded: true, Source: "the maker's page"},
		{ResinID: &tough, Day: d.day(-90), State: "list", Amount: p(41), Shipping: p(0), TaxIncluded: true, Source: "the maker's page"},
		{ResinID: &tough, Day: d.day(-5), State: "offer", UntilDay: quantity.Ptr(d.day(44)), Amount: p(35), Shipping: p(0), TaxIncluded: true, Source: "a shop", Note: "two bottles at once"},
	} {
		if _, err := d.work.Money.Ask(d.ctx, price); err != nil {
			return err
		}
	}
	for _, item := range []bench.Equipment{
		{MachineID: masked, Item: "Filter", Need: "to_buy", Amount: p(24), Source: "a shop"}, {MachineID: projector, Item: "Filter", Need: "included"},
		{MachineID: masked, Item: "Spare film", Need: "included"}, {MachineID: projector, Item: "Spare film", Need: "to_buy", Amount: p(16), Source: "the maker's page"},
	} {
		if _, err := d.work.Money.Equip(d.ctx, item); err != nil {
			return err
		}
	}
	if _, err := d.work.Money.Budgeted(d.ctx, reviewID, bench.Budget{PiecesPerYear: 500, Years: 3, ResalePct: 35,
		Upkeep: bench.BudgetItems{{Name: "solvent", Price: 14, EveryPieces: 180}, {Name: "gloves", Price: 9, EveryPieces: 120}},
		Paths:  bench.BudgetPaths{{Name: "upgrading now", Now: 139, PerPiece: 0.62}, {Name: "upgrading with the next panel", Now: 139, Saved: 95, PerPiece: 0.62}, {Name: "buying new", Now: 508, Saved: 150, PerPiece: 0.39}}}); err != nil {
		return err
	}
	for _, example := range []string{"army", "hero"} {
		if _, err := d.work.Readers.Begin(d.ctx, reviewID, example); err != nil {
			return err
		}
	}
	if err := d.writesUp(reviewID); err != nil {
		return err
	}
	_, err = d.work.Publish.Publish(d.ctx, reviewID, "", false)
	return err
}

// writesUp puts the parts of a write-up in order, with words and photographs between, and leaves two questions open.
func (d *scene) writesUp(reviewID string) error {
	parts, err := d.work.Publish.Parts(d.ctx, reviewID)
	if err != nil {
		return err
	}
	words := bench.Block{Key: "own-1", Title: "How to read this", Text: "A and B are one machine each, bought and lent as told at the end. What is said of them is said of these two, with these two resins.\n\nLanterns failed on the masked panel with Heron Blue in {{Cage lantern.Dunnock 5 with Heron Blue.failures, all.events}} of {{Cage lantern.Dunnock 5 with Heron Blue.failures, all.of}} copies.", Pictures: bench.BlockPictures{}}
	if at := slices.IndexFunc(parts.Photographs, func(p publish.Choosable) bool { return strings.Contains(p.Says, "primed") }); at >= 0 {
		words.Pictures = append(words.Pictures, bench.BlockPicture{PhotographID: parts.Photographs[at].ID, Caption: "A primed lantern, as the judges held it"})
	}
	blocks := bench.Blocks{}
	for _, p := range slices.Concat(parts.Parts, parts.Each) {
		blocks = append(blocks, p.Block)
		if p.Key == "answer" {
			blocks = append(blocks, words)
		}
	}
	if _, err := d.work.Reviews.WriteUpAs(d.ctx, reviewID, parts.Version, blocks); err != nil {
		return err
	}
	review, err := d.work.Reviews.Review(d.ctx, reviewID)
	if err != nil {
		return err
	}
	review.Verdict = "For bars that are looked at in the hand, primed, judges preferred the masked panel. On failures neither machine stands ahead on these prints, and on time the plates of the blue resin were out sooner on it than those of the tough one.\n\nWho buys now for one of these two reasons has an answer; who buys by failures has to wait for more prints."
	review.NotTested = "Parts for use, clear resins, and what becomes of either machine after a year."
	if _, err := d.work.Reviews.SaveReview(d.ctx, review); err != nil {
		return err
	}
	for _, f := range []bench.FollowUp{
		{Question: "Has the panel dimmed after 500 hours?", DueDay: d.day(180)},
		{Question: "Does the next firmware mend the pause between layers?", DueDay: d.present.Format(time.DateOnly)},
	} {
		if _, err := d.work.Reviews.FollowUp(d.ctx, reviewID, f); err != nil {
			return err
		}
	}
	return nil
}
