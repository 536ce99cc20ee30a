#!/usr/bin/env node
import "../dist/alvek.js";
