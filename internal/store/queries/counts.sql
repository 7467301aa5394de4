-- name: CountMachines :one
SELECT count(*) FROM machine;

-- name: CountResins :one
SELECT count(*) FROM resin;

-- name: CountBottles :one
SELECT count(*) FROM bottle;

-- name: CountInstruments :one
SELECT count(*) FROM instrument;

-- name: CountPieces :one
SELECT count(*) FROM piece;

-- name: CountReviews :one
SELECT count(*) FROM review;

-- name: CountProfiles :one
SELECT count(*) FROM profile;

-- name: CountSeries :one
SELECT count(*) FROM series;

-- name: CountRuns :one
SELECT count(*) FROM run;

-- name: CountPlates :one
SELECT count(*) FROM plate;

-- name: CountBaths :one
SELECT count(*) FROM bath;

-- name: CountDevices :one
SELECT count(*) FROM device;

-- name: CountAssemblies :one
SELECT count(*) FROM assembly;

-- name: CountReferences :one
SELECT count(*) FROM reference;

-- name: CountPhotographs :one
SELECT count(*) FROM photograph;

-- name: CountGaugeStudies :one
SELECT count(*) FROM gauge_study;

-- name: CountStressSeries :one
SELECT count(*) FROM stress_series;
