//go:build !(js && wasm)

// Command device is built for js/wasm only; see main.go.
package main

func main() {}
