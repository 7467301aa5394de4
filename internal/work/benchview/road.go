package benchview

import "ojime/internal/store"

// RoadStep is a step from the question to what is published: whether the record shows that it
// was done, what it is for, and where it is done. Next says that it comes now.
type RoadStep struct {
	Title string `json:"title"`
	Why   string `json:"why"`
	Link  string `json:"link"`
	Done  bool   `json:"done"`
	Next  bool   `json:"next"`
	// Table is where several are entered at once, empty where that is nowhere.
	Table string `json:"table"`
	// waits says that something before it must be there first.
	waits bool
}

// roadOf is the road of a record, in the order of the work. The first step that is not done comes
// next; later ones may be done before it.
func roadOf(so store.RoadSoFar) []RoadStep {
	road := []RoadStep{
		{Title: "State the question", Why: "Who reads the review, what is compared, what is held, who paid.", Link: "/verdict/new", Done: so.Question, waits: !so.Machine},
		{Title: "Enter your first machine", Why: "Its plate, pixels and motion give pitch and print time.", Link: "/kit/machines/new", Table: "/tables/machines", Done: so.Machine},
		{Title: "Enter a resin and a bottle", Why: "Cost, age and settings hang on them.", Link: "/kit/resins/new", Table: "/tables/resins", Done: so.Resin, waits: !so.Machine},
		{Title: "Import a piece", Why: "Say what will be measured on it before it is printed.", Link: "/kit/pieces/new", Done: so.Piece, waits: !so.Machine},
		{Title: "Say what is measured", Why: "Sizes, ladders and places to look at, so that every copy is asked the same.", Link: "/kit?tab=pieces", Table: "/tables/features", Done: so.Feature, waits: !so.Piece},
		{Title: "Dial in an exposure", Why: "A print needs settings; a series finds them for machine, resin and layer height.", Link: "/dial-in/new", Table: "/tables/settings", Done: so.Profile, waits: !so.Resin},
		{Title: "Print", Why: "Each print with the conditions that it was made under.", Link: "/runs/prepare", Table: "/tables/prints", Done: so.Printed},
		{Title: "Say what became of the copies", Why: "Whole, with a defect or lost: failures are counted over prints.", Link: "/runs", Table: "/tables/outcomes", Done: so.Judged},
		{Title: "Inspect", Why: "Sizes, ladders, checkpoints, ratings and photographs of the copies.", Link: "/inspect", Done: so.Inspected},
		{Title: "Compare", Why: "Two set-ups with judged prints; the audit says how fair it is before any figure.", Link: "/compare", Done: so.Comparable},
		{Title: "Give the verdict and write it up", Why: "For whom, at what price, what was not tested.", Link: "/verdict", Done: so.Verdict},
	}
	for i := range road {
		if !road[i].Done {
			road[i].Next = true
			break
		}
	}
	return road
}

// beforePrinting is how many steps of the road come before the first print.
const beforePrinting = 6

// firstSteps are the steps before the first print that are not done and wait for nothing.
func (b *Bench) firstSteps() {
	for _, s := range b.Road[:beforePrinting] {
		if !s.Done && !s.waits {
			b.step(s.Title, s.Why, s.Link)
		}
	}
}
