//go:build js && wasm

// Command device is package device as a WebAssembly module for the page. It
// sets the function exactflaskJudge, which takes a request and returns an
// answer, both JSON texts, and exactflaskRest, which is called when nobody waits.
package main

import (
	"runtime"
	"runtime/debug"
	"syscall/js"

	"exactflask/device"
)

// There is one thread: what is not used any more is collected while an answer is waited
// for, or at rest. So it is collected at rest, once there is enough of it; while answering
// only when it has come to several times what is used.
const (
	whileAnswering = 400     // percent of what is used
	enough         = 8 << 20 // bytes
)

func main() {
	debug.SetGCPercent(whileAnswering)
	var judge device.Judge
	js.Global().Set("exactflaskJudge", js.FuncOf(func(_ js.Value, args []js.Value) any {
		return string(judge.JSON([]byte(args[0].String())))
	}))
	var stats runtime.MemStats
	var used uint64 // after it was collected last
	js.Global().Set("exactflaskRest", js.FuncOf(func(js.Value, []js.Value) any {
		if runtime.ReadMemStats(&stats); stats.HeapAlloc > used+enough {
			runtime.GC()
			runtime.ReadMemStats(&stats)
			used = stats.HeapAlloc
		}
		return nil
	}))
	select {} // the functions stay callable
}
