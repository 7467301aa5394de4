package timing

// LitTogether is how long a layer of one plate is lit, in s, that holds a cell at each
// exposure, and what its bottom layers take: as long as the longest where cells are lit
// together and masked off one by one, as all of them where they are lit in turn; then
// the bottom layers are lit in turn too.
func LitTogether(exposuresS []float64, bottomS float64, inTurn bool) (layerS, bottomLayerS float64) {
	longest, sum := 0.0, 0.0
	for _, e := range exposuresS {
		longest, sum = max(longest, e), sum+e
	}
	if inTurn {
		return sum, bottomS * float64(len(exposuresS))
	}
	return longest, bottomS
}

// CellByCell is the time, in s, of plates of one cell each, with turnaroundMin between
// one and the next, in min.
func CellByCell(platesS []float64, turnaroundMin float64) (printingS, withTurnaroundS float64) {
	for _, s := range platesS {
		printingS += s
	}
	return printingS, printingS + 60*turnaroundMin*float64(max(0, len(platesS)-1))
}
