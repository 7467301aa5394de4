package verdict

// Wish is a criterion of a reader before a review has measures for it: Family is the key of a measure, or its beginning, in
// Unit; Worst and Best are in that unit.
type Wish struct {
	Family string
	Name   string
	Unit   string
	Weight float64
	Worst  float64
	Best   float64
}

// Must is a must-have of a reader, likewise.
type Must struct {
	Family string
	Name   string
	Unit   string
	Bound  string
	Value  float64
}

// Example is a reader to begin with: our own, to be changed to the reviewer's.
type Example struct {
	Key    string
	Name   string
	About  string
	Wishes []Wish
	Musts  []Must
}

// wishes that examples share, with anchors at which a practitioner would shrug and at which one would smile.
func fails(weight float64) Wish { return Wish{"failures", "Failures", "%", weight, 30, 0} }
func edges(weight float64) Wish {
	return Wish{"rating edges", "Crispness of edges", "of 0 to 4", weight, 1, 4}
}
func lines(weight float64) Wish {
	return Wish{"rating layer_lines", "Layer lines", "of 0 to 4", weight, 1, 4}
}
func finish(weight float64) Wish { return Wish{"blemished", "Blemishes", "%", weight, 60, 0} }
func posts(weight float64) Wish  { return Wish{"ladder", "Finest posts", "mm", weight, 0.6, 0.15} }
func sizes(weight float64) Wish {
	return Wish{"error_abs", "Error of sizes", "mm", weight, 0.2, 0.02}
}
func minutes(weight float64) Wish { return Wish{"per_piece", "Time a piece", "min", weight, 120, 10} }
func money(weight float64) Wish   { return Wish{"cost", "Cost of a good piece", "money", weight, 4, 0.3} }
func price(weight float64) Wish {
	return Wish{"price", "Price of the machine", "money", weight, 1500, 150}
}
func noise(weight float64) Wish { return Wish{"lived noise", "Noise", "of 0 to 4", weight, 0, 4} }
func smell(weight float64) Wish {
	return Wish{"lived smell_kept_in", "Smell", "of 0 to 4", weight, 0, 4}
}

// Examples are readers to begin with.
var Examples = []Example{
	{"army", "An army by the dozen", "Prints ranks of figures for the table and paints them to be seen from a chair away.",
		[]Wish{fails(5), minutes(4), money(3), edges(2), finish(2), price(2)}, []Must{{"failures", "Failures", "%", AtMost, 25}}},
	{"hero", "One hero to paint", "Prints one figure or bust at a time and paints it to be looked at closely.",
		[]Wish{edges(5), lines(5), finish(4), posts(3), fails(2), price(1)}, nil},
	{"parts", "Functional small parts", "Prints brackets, pegs and fits that have to measure what they are drawn.",
		[]Wish{sizes(5), fails(4), posts(2), money(2), price(1)}, []Must{{"error_abs", "Error of sizes", "mm", AtMost, 0.15}}},
	{"first", "A first printer", "Has never printed in resin, and gives up when the third plate fails.",
		[]Wish{fails(5), price(4), smell(2), edges(2), money(1)}, []Must{{"failures", "Failures", "%", AtMost, 20}}},
	{"flat", "A shared flat", "Prints in a room where somebody else sleeps or eats.",
		[]Wish{smell(5), noise(5), fails(3), edges(2), price(2)}, nil},
}
