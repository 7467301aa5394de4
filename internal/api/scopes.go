package api

import (
	"slices"
	"strings"
)

// Who may use an operation. A device and a judge bring a token of their own, which the operation itself asks for.
const (
	forAll    = "all"    // the door itself
	forBallot = "ballot" // who has the link of a ballot
	forDevice = "device" // who has a device's token
	forHelper = "helper" // whoever is in
	forOwner  = "owner"  // who came in by the passphrase
)

// ownTokens are operations that whoever comes to the door may ask for: what they do hangs on the token that they bring.
var ownTokens = map[string]string{
	"GET /api/v1/door": forAll, "POST /api/v1/door/sessions": forAll, "POST /api/v1/door/helpers": forAll, "GET /api/v1/door/root.crt": forAll,
	"GET /api/v1/ballots/{token}": forBallot, "POST /api/v1/ballots/{token}": forBallot, "GET /api/v1/ballots/{token}/pictures/{code}": forBallot,
	"POST /api/v1/feed": forDevice, "GET /api/v1/feed/job": forDevice,
}

// helperReads are the kinds of entries that a helper may look at: what is at the bench, and what entering needs.
var helperReads = []string{"bench", "machines", "resins", "bottles", "baths", "pieces", "profiles", "runs", "specimens", "photographs", "unit-photographs", "plates", "plates-to-read",
	"sittings", "rating-scales", "instruments", "references", "readings", "symptoms", "program", "factors", "events", "calendar", "settings", "stress-series", "stress-kinds", "form-kinds",
	"done-commands", "assemblies", "series", "waste", "safekeeping", "rooms", "visible-detail", "upkeep", "openapi"}

// helperWrites are what a helper may enter: what happens, is seen, read and judged, and slips in that taken back.
// Nothing here sets up kit, settings or devices, erases, or takes the record out.
var helperWrites = []string{
	"POST /api/v1/lines", "POST /api/v1/line-meanings", "POST /api/v1/readings", "POST /api/v1/reading-previews", "POST /api/v1/reading-sheet-previews/{id}",
	"POST /api/v1/runs/{id}/events", "PUT /api/v1/runs/{id}/outcomes", "POST /api/v1/runs/{id}/readings", "POST /api/v1/runs/{id}/reading-sheet", "POST /api/v1/runs/{id}/form-readings",
	"POST /api/v1/runs/{id}/room-readings", "POST /api/v1/runs/{id}/stages", "POST /api/v1/runs/{id}/steps", "POST /api/v1/runs/{id}/preflight", "POST /api/v1/photographs", "POST /api/v1/photographs/{id}/measures",
	"POST /api/v1/sittings", "POST /api/v1/ratings", "POST /api/v1/references/{id}/readings", "POST /api/v1/series/{id}/cells/{number}/readings",
	"POST /api/v1/runs", "PATCH /api/v1/runs/{id}", "POST /api/v1/run-preparations", "POST /api/v1/bottles/{id}/events", "POST /api/v1/door/leaving",
	"POST /api/v1/runs/{id}/readings/{reading_id}/taking-back", "POST /api/v1/runs/{id}/form-readings/{reading_id}/taking-back", "POST /api/v1/ratings/{id}/taking-back",
}

// asksAgain are what needs the passphrase once more, a short while before: tokens, and the whole record in or out.
var asksAgain = []string{"POST /api/v1/devices", "POST /api/v1/devices/{id}/tokens", "GET /api/v1/record", "POST /api/v1/record"}

// helperLists are single reads that a helper needs, below whose kinds the rest is the owner's.
var helperLists = []string{"GET /api/v1/reviews"}

// scopeOf says who may use an operation; whatever is not named is the owner's.
func scopeOf(method, path string) string {
	operation := method + " " + path
	if scope, named := ownTokens[operation]; named {
		return scope
	}
	kind := kindOf(path)
	switch {
	case slices.Contains(helperWrites, operation), slices.Contains(helperLists, operation), method == "POST" && kind == "calc":
		return forHelper
	case method == "GET" && slices.Contains(helperReads, strings.TrimSuffix(kind, ".json")):
		return forHelper
	}
	return forOwner
}
