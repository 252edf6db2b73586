#!/usr/bin/env node
import '../dist/warper.mjs';
